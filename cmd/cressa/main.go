// Command cressa is a workbench for people who cut gemstones to faceting
// diagrams. It serves the application and does the core's work in a terminal.
package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"
)

func main() { os.Exit(run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr)) }

// failure is a mistake in a file or a value, told in one line. Every other error
// is a wrong call.
type failure struct{ text string }

func (f failure) Error() string { return f.text }

func fail(format string, args ...any) error { return failure{fmt.Sprintf(format, args...)} }

// run is main without the process: 0 done, 1 a mistake in a file or a value, 2 a
// wrong call.
func run(args []string, in io.Reader, out, errs io.Writer) int {
	root := &cobra.Command{
		Use:           "cressa",
		Short:         "Plan, cut and record faceted gemstones",
		SilenceUsage:  true,
		SilenceErrors: true,
		Args:          cobra.NoArgs,
		RunE:          func(*cobra.Command, []string) error { return errors.New("a command is missing") },
	}
	root.CompletionOptions.DisableDefaultCmd = true
	root.SetArgs(args)
	root.SetIn(in)
	root.SetOut(out)
	root.SetErr(errs)
	root.AddCommand(serveCommand(), demoCommand(), simulateCommand(), cutCommand(), regearCommand(), gearsCommand(), sequenceCommand(), retargetCommand(), toleranceCommand(), heightsCommand(), opticsCommand(), fitCommand(),
		convertCommand(), materialCommand(), seedCommand(), checkCommand(), mendCommand(), recutCommand(), slipsCommand(), redopCommand(), backupCommand(), restoreCommand())

	called, err := root.ExecuteContextC(context.Background())
	if err == nil {
		return 0
	}
	fmt.Fprintln(errs, "cressa:", err)
	if errors.As(err, &failure{}) {
		return 1
	}
	fmt.Fprint(errs, called.UsageString())
	return 2
}
