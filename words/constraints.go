package words

import (
	"fmt"
	"strings"
)

// Constraint says what a field's value must be, by the name of the rule that it
// breaks and the rule's figure.
func Constraint(rule, figure, value string) string {
	switch rule {
	case "required":
		return "This is empty. Fill it in."
	case "min":
		return fmt.Sprintf("%s is too small; it must be at least %s.", value, figure)
	case "max":
		return fmt.Sprintf("This is too large; at most %s will do.", figure)
	case "oneof":
		return fmt.Sprintf("%q will not do. Choose one of %s.", value, strings.ReplaceAll(figure, " ", ", "))
	case "gtfield":
		return fmt.Sprintf("%s is too small; it must be above the other figure.", value)
	case "datetime":
		return fmt.Sprintf("%q is no date. Write it as 2026-11-23.", value)
	}
	return fmt.Sprintf("%q will not do here.", value)
}
