package server

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"net/http"
	"strings"

	"github.com/labstack/echo/v5"

	"cressa/workshop"
)

// keyHeader is where a client names a request that makes a record. One that is sent again under the
// same name, because its answer was lost, makes nothing more and is answered as before.
const keyHeader = "Idempotency-Key"

// longestKey bounds such a name.
const longestKey = 100

// kindDone: what was asked for was done before, and the answer to that is lost for good.
const kindDone = "/problems/done"

// once makes what a request asks for, unless the same request has made it before, and returns the
// answer as JSON.
func (s *Server) once(c *echo.Context, do func() (any, error)) (json.RawMessage, error) {
	key := c.Request().Header.Get(keyHeader)
	if len(key) > longestKey {
		return nil, &Problem{Status: http.StatusBadRequest, Detail: "The name of the request in its head is too long."}
	}
	if key == "" {
		return asJSON(do())
	}
	ctx := c.Request().Context()
	// The name is that of one device's request to one address.
	sum := sha256.Sum256([]byte(strings.Join([]string{workshop.ActorOf(ctx).ID, c.Request().Method, c.Request().URL.Path, key}, "\n")))
	name := hex.EncodeToString(sum[:])
	if answer, err := s.before(ctx, name); !errors.Is(err, workshop.ErrNotFound) {
		return answer, err
	}
	c.SetRequest(c.Request().WithContext(workshop.WithRequest(ctx, name)))
	out, err := asJSON(do())
	if errors.Is(err, workshop.ErrRepeated) {
		return s.before(ctx, name)
	}
	if err != nil {
		return nil, err
	}
	// It is made; that its client has left changes nothing.
	return out, s.workshop.SaveAnswer(context.WithoutCancel(ctx), name, string(out))
}

// before returns what was answered to a request of this name, or ErrNotFound.
func (s *Server) before(ctx context.Context, name string) (json.RawMessage, error) {
	answer, err := s.workshop.Answer(ctx, name)
	if err == nil && answer == "" {
		return nil, &Problem{Type: kindDone, Status: http.StatusConflict, Detail: "This was done already; only the answer was lost. You find it in its list."}
	}
	return json.RawMessage(answer), err
}

func asJSON(v any, err error) (json.RawMessage, error) {
	if err != nil {
		return nil, err
	}
	return json.Marshal(v)
}
