package workshop

import (
	"reflect"
	"strings"

	"github.com/go-playground/validator/v10"
)

// ranges executes the ranges that stand in the types' validate tags. The contract's
// document is derived from the same tags.
var ranges = func() *validator.Validate {
	v := validator.New(validator.WithRequiredStructEnabled())
	v.RegisterTagNameFunc(func(f reflect.StructField) string {
		name, _, _ := strings.Cut(f.Tag.Get("json"), ",")
		return name
	})
	return v
}()

// Validate checks a record's fields against the ranges that its type states. Everything
// that is kept goes through it, wherever it comes from. The error is a
// validator.ValidationErrors with a place for each field at fault, named as in JSON.
func Validate(record any) error { return ranges.Struct(record) }
