package workshop

import (
	"context"
	"errors"
	"time"
)

// ErrRepeated says that what a request asks for was done for the same request before.
var ErrRepeated = errors.New("this request was made before")

// KeepRequests is how long the name of a request is remembered.
const KeepRequests = 7 * 24 * time.Hour

// request is one that its client has named, so that it can be sent again after a lost answer.
type request struct {
	name  string
	noted bool
}

type requestKey struct{}

// WithRequest names the request that a context belongs to. The first thing that is kept with it is
// kept together with the name; where that is known already, nothing is, and the error is ErrRepeated.
func WithRequest(ctx context.Context, name string) context.Context {
	return context.WithValue(ctx, requestKey{}, &request{name: name})
}

// NoteRequest calls note with the name of a context's request unless it was noted already. A store
// calls it within the transaction that keeps something.
func NoteRequest(ctx context.Context, note func(name string) error) error {
	r, named := ctx.Value(requestKey{}).(*request)
	if !named || r.noted {
		return nil
	}
	if err := note(r.name); err != nil {
		return err
	}
	r.noted = true
	return nil
}

// Requests remembers what named requests have made.
type Requests struct {
	store RequestStore
	origin
}

// RequestStore keeps the names of requests, and what was answered. A transaction that keeps
// something notes the name of its context's request, see NoteRequest.
type RequestStore interface {
	// Answer returns what was answered to a request, "" where it is not known yet, or ErrNotFound.
	Answer(ctx context.Context, name string) (string, error)
	// SaveAnswer keeps what was answered to a request that is noted.
	SaveAnswer(ctx context.Context, name, answer string) error
	// DropRequests forgets those that were noted before a time.
	DropRequests(ctx context.Context, before time.Time) error
}

// Answer returns what was answered to a request of that name, "" where it was done but the answer is
// not known, or ErrNotFound where it was not done.
func (r *Requests) Answer(ctx context.Context, name string) (string, error) {
	return r.store.Answer(ctx, name)
}

// SaveAnswer keeps what is answered to a request, for when it is sent again.
func (r *Requests) SaveAnswer(ctx context.Context, name, answer string) error {
	return r.store.SaveAnswer(ctx, name, answer)
}

// ForgetRequests forgets those of longer than KeepRequests ago.
func (r *Requests) ForgetRequests(ctx context.Context) error {
	return r.store.DropRequests(ctx, r.moment().Add(-KeepRequests))
}
