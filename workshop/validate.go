package workshop

import (
	"reflect"
	"strings"
	"unicode"

	"github.com/go-playground/validator/v10"
)

// ranges executes the ranges that stand in the types' validate tags. The contract's
// document is derived from the same tags.
var ranges = func() *validator.Validate {
	v := validator.New(validator.WithRequiredStructEnabled())
	v.RegisterTagNameFunc(func(f reflect.StructField) string {
		if name, _, _ := strings.Cut(f.Tag.Get("json"), ","); name != "" || f.Anonymous {
			return name
		}
		return fieldName(f.Name)
	})
	return v
}()

// fieldName is what people and the contract call a field: WidthMM is widthMM, ID id.
func fieldName(name string) string {
	end := strings.IndexFunc(name, unicode.IsLower)
	switch {
	case end < 0:
		return strings.ToLower(name)
	case end > 1:
		end--
	}
	return strings.ToLower(name[:end]) + name[end:]
}

// Validate checks a record's fields against the ranges that its type states. Everything
// that is kept goes through it, wherever it comes from. The error is a
// validator.ValidationErrors with a place for each field at fault, named as in JSON.
func Validate(record any) error { return ranges.Struct(record) }
