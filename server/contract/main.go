// Command contract prints the OpenAPI document of the server's routes.
package main

import (
	"fmt"
	"log/slog"
	"os"
	"testing/fstest"

	"cressa/server"
	"cressa/workshop"
)

func main() {
	s := server.New(&workshop.Workshop{}, "", fstest.MapFS{}, slog.New(slog.DiscardHandler))
	doc, err := s.OpenAPI()
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
	fmt.Println(string(doc))
}
