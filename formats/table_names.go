package formats

import (
	"fmt"
	"regexp"
	"strings"

	"cressa/core/diagram"
	"cressa/core/printed"
)

var letterOf = map[diagram.Part]string{diagram.Pavilion: "P", diagram.Girdle: "G", diagram.Crown: "C"}

// number gives tiers that share their names, as on sheets that count each side from 1, names of
// their own: P1, C1. Where the stops of such a side name tiers they follow.
func (r *tableReader) number() {
	times := map[string]int{}
	for _, row := range r.rows {
		times[row.name.text]++
	}
	for i, row := range r.rows {
		part := row.part
		if part == "" {
			part = diagram.Girdle
		}
		if name := row.name.text; name != "" && times[name] > 1 && times[letterOf[part]+name] == 0 {
			times[letterOf[part]+name]++
			r.rename(i, letterOf[part]+name)
		}
	}
}

// rename calls a row otherwise, in its section's stops too.
func (r *tableReader) rename(i int, to string) {
	was, part := r.rows[i].name, r.rows[i].part
	r.rows[i].name.text = to
	r.add(r.rows[i].line, max(was.column, 1), diagram.Problem{Code: TierRenamed, Tier: to, TierNo: i, Field: diagram.FieldName, Text: was.text})
	whole := regexp.MustCompile(`\b` + regexp.QuoteMeta(was.text) + `\b`)
	for k := i + 1; k < len(r.rows); k++ {
		if row := &r.rows[k]; row.part == part && printed.ReadsAsStop(row.stop.text) {
			row.stop.text = whole.ReplaceAllString(row.stop.text, to)
		}
	}
}

// nameTheNameless calls tiers without a name after their part: P1, P2, G1, C1.
func (r *tableReader) nameTheNameless() {
	d := &r.table.Draft
	used := map[string]bool{}
	for _, t := range d.Tiers {
		used[t.Name] = true
	}
	read, _ := printed.Read(*d)
	for i := range d.Tiers {
		if strings.TrimSpace(d.Tiers[i].Name) != "" {
			continue
		}
		letter := letterOf[diagram.Part(read.Tiers[i].Part)]
		if letter == "" {
			letter = "F"
		}
		for n := 1; ; n++ {
			if name := fmt.Sprint(letter, n); !used[name] {
				d.Tiers[i].Name, used[name] = name, true
				break
			}
		}
	}
}
