package words

import "fmt"

var findings = map[string]string{
	"file-damaged":      "The file of the records is damaged.",
	"row-orphaned":      "It refers to a record that is not there.",
	"record-unreadable": "The record cannot be read.",
	"state-missing":     "What is kept of where this work stands is missing. It follows from the log.",
	"state-differs":     "What is kept of where this work stands is not what its log says.",
	"photo-missing":     "The picture's file is not there.",
	"photo-damaged":     "The picture's file is not the one that was kept.",
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
