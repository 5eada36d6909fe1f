package words

import "fmt"

var findings = map[string]string{
	"file-damaged":      "The file of the records is damaged.",
	"file-unwritable":   "The file or its folder cannot be written.",
	"file-emptied":      "The file is empty: it was cut off. Only a copy can bring the records back.",
	"file-foreign":      "The file is none of Cressa's.",
	"file-newer":        "A newer version of Cressa wrote it. Use that version.",
	"wal-missing":       "The file of the last changes, whose name ends in -wal, is missing. They may have been in that file alone.",
	"wal-foreign":       "The file of the last changes, whose name ends in -wal, belongs to other records.",
	"file-missing":      "The file of the records is missing; only that of the last changes is there.",
	"index-damaged":     "The index does not say what its table does. It follows from the table.",
	"row-orphaned":      "It refers to a record that is not there. A repair sets it aside.",
	"record-unreadable": "The record cannot be read.",
	"state-missing":     "What is kept of where this work stands is missing. It follows from the log.",
	"state-differs":     "What is kept of where this work stands is not what its log says.",
	"photo-missing":     "The picture's file is not there.",
	"photo-damaged":     "The picture's file is not the one that was kept.",
	"photo-orphaned":    "No record shows this picture. A repair sets it aside.",
}

// Finding says what a check of the records found.
func Finding(what string) string { return findings[what] }

// Checked sums a check up.
func Checked(found, repaired int) string {
	switch {
	case found == 0:
		return "The records are whole."
	case repaired == 0:
		return fmt.Sprintf("%s found.", counted(found))
	}
	return fmt.Sprintf("%s found, %d repaired.", counted(found), repaired)
}

func counted(n int) string {
	if n == 1 {
		return "1 problem"
	}
	return fmt.Sprintf("%d problems", n)
}

// Bytes is a size as people say it.
func Bytes(n int64) string {
	switch {
	case n < 1000:
		return fmt.Sprintf("%d bytes", n)
	case n < 1_000_000:
		return fmt.Sprintf("%.0f kB", float64(n)/1e3)
	case n < 1_000_000_000:
		return fmt.Sprintf("%.1f MB", float64(n)/1e6)
	}
	return fmt.Sprintf("%.1f GB", float64(n)/1e9)
}
