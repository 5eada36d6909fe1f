package workshop

import (
	"context"

	"cressa/workshop/journal"
)

// actorKey is where a context holds who acts.
type actorKey struct{}

// WithActor returns a context in which somebody acts. Events are stamped with it.
func WithActor(ctx context.Context, who journal.Actor) context.Context {
	return context.WithValue(ctx, actorKey{}, who)
}

// ActorOf returns who acts, the workshop itself where nobody was named.
func ActorOf(ctx context.Context) journal.Actor {
	if who, ok := ctx.Value(actorKey{}).(journal.Actor); ok {
		return who
	}
	return journal.Actor{Name: "workshop"}
}
