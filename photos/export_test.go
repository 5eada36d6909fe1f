package photos

// Occupy holds the place of whoever decodes a picture until release is called.
func Occupy() (release func()) {
	decoding <- struct{}{}
	return func() { <-decoding }
}
