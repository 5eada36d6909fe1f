package copies

import "errors"

// ErrKilled is what a move fails with once the program is as good as killed.
var ErrKilled = errors.New("killed")

// KillAfter lets so many files be moved; what is moved later fails until the function that it
// returns is called.
func KillAfter(moves int) (revive func()) {
	was := rename
	rename = func(from, to string) error {
		if moves--; moves < 0 {
			return ErrKilled
		}
		return was(from, to)
	}
	return func() { rename = was }
}
