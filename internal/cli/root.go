// Package cli is the command line: one file for each command, flags in, text
// out. What a command decides is decided in the packages below.
package cli

import (
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"strconv"
	"strings"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"dicaxon/internal/baseline"
	"dicaxon/internal/output"
	"dicaxon/internal/safe"
	"dicaxon/internal/source"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// The exit statuses.
const (
	statusFine     = 0
	statusFindings = 1 // there are findings at the failing level or above
	statusCall     = 2 // the call, a layout or a configuration is wrong
	statusDisk     = 3 // something could not be read or written
)

// A program is one run.
type program struct {
	in     io.Reader
	out    *output.Printer
	err    *output.Printer
	stdin  *os.File
	stdout *os.File
	stderr *os.File

	colour string // the value of --color
	ascii  bool
	format string
	status int

	limit func(time.Duration) // says how long the command may take
	state *atomic.Int32       // idle, writing or stopping
}

func (p *program) root() *cobra.Command {
	root := &cobra.Command{
		Use:   "dicaxon",
		Short: "Check, explain and start repositories by the layout of their framework",
		Long: `Dicaxon knows what a repository of a given kind looks like: which folders there are,
what each is for, who makes it, and where a file belongs.

  dicaxon check            flag what is missing, extra, misplaced or misnamed here
  dicaxon realign          show what would put it right, with the references that follow
  dicaxon explain PATH     say what a folder or file is for
  dicaxon scaffold         start a project
  dicaxon demo             see it at work on made-up repositories`,
		SilenceErrors: true,
		SilenceUsage:  true,
		Args:          noSuchCommand,
		Version:       Version,
		RunE:          func(cmd *cobra.Command, _ []string) error { return cmd.Help() },
	}
	root.SetOut(p.out)
	root.SetErr(p.err)
	root.SetFlagErrorFunc(flagError)
	root.SetVersionTemplate(versionLine())
	root.Flags().Bool("version", false, "say which version this is")
	root.PersistentFlags().StringVar(&p.colour, "color", "auto", "colours: auto, always or never")
	timeout := patience
	root.PersistentFlags().DurationVar(&timeout, "timeout", timeout, "how long it may take before it gives up, such as 90s or 10m")
	root.PersistentPreRunE = func(cmd *cobra.Command, _ []string) error {
		if err := sensible(cmd); err != nil {
			return err
		}
		if timeout <= 0 {
			return callf("--timeout %v: nothing can be done in that time", timeout)
		}
		if p.limit != nil {
			p.limit(timeout)
		}
		return nil
	}
	root.PersistentFlags().BoolVar(&p.ascii, "ascii", false, "draw with ASCII characters only")
	root.AddCommand(p.check(), p.compare(), p.explain(), p.identify(), p.scaffold(), p.add(), p.realign(), p.place(), p.undo(), p.layouts(), p.demo(), p.version())
	for _, cmd := range root.Commands() {
		cmd.Args = plainArguments(cmd.Args)
	}
	root.SetHelpCommand(helpCommand())
	root.InitDefaultCompletionCmd()
	for _, cmd := range root.Commands() {
		if cmd.Name() == "completion" {
			cmd.Args, cmd.RunE = cobra.ArbitraryArgs, noSuchShell
		}
	}
	return root
}

// formatFlag gives a command the choice between text, JSON and, where it has
// them, more formats.
func (p *program) formatFlag(cmd *cobra.Command, more ...string) {
	known := append([]string{"text", "json"}, more...)
	cmd.Flags().StringVar(&p.format, "format", "text", "how to answer: "+strings.Join(known, ", "))
	before := cmd.PreRunE
	cmd.PreRunE = func(cmd *cobra.Command, args []string) error {
		if err := oneOf("format", p.format, known...); err != nil {
			return err
		}
		if before != nil {
			return before(cmd, args)
		}
		return nil
	}
	_ = cmd.RegisterFlagCompletionFunc("format", cobra.FixedCompletions(known, cobra.ShellCompDirectiveNoFileComp))
}

// fail says what went wrong and gives the exit status for it.
func (p *program) fail(err error) int {
	if errors.Is(err, syscall.EPIPE) {
		return statusDisk // the reader has gone; there is nobody to tell
	}
	var several source.Errors
	if errors.As(err, &several) {
		for _, one := range several {
			p.fail(one)
		}
		return statusCall
	}
	fmt.Fprintf(p.err, "dicaxon: %s\n", said(err))
	var (
		call    callError
		text    *source.Error
		mistake workspace.CallError

		unreadable *baseline.UnreadableError
	)
	switch {
	case errors.As(err, &text):
		if text.Shown != "" {
			fmt.Fprintf(p.err, "  %s\n", tree.Printable(strings.ReplaceAll(strings.TrimSpace(text.Shown), "\t", " ")))
		}
		return statusCall
	case errors.As(err, &call), errors.As(err, &mistake), errors.As(err, &unreadable):
		return statusCall
	}
	return statusDisk
}

// said puts an error into words: where a path is at fault, the path first.
func said(err error) string { return safe.Redacted(inWords(err)) }

func inWords(err error) string {
	var path *fs.PathError
	if errors.As(err, &path) {
		switch {
		case errors.Is(err, fs.ErrNotExist):
			return fmt.Sprintf("%s: there is no such file or folder", tree.Printable(path.Path))
		case errors.Is(err, fs.ErrPermission):
			return fmt.Sprintf("%s: permission denied", tree.Printable(path.Path))
		}
		return fmt.Sprintf("%s: %v", tree.Printable(path.Path), path.Err)
	}
	return strings.ReplaceAll(err.Error(), "\n", " ")
}

// page makes the page that the answer is written on.
func (p *program) page() (*output.Page, error) {
	if err := oneOf("color", p.colour, "auto", "always", "never"); err != nil {
		return nil, err
	}
	page := &output.Page{Out: p.out, Sign: p.out.Sign, Width: 100, ASCII: p.ascii || !utf8Locale()}
	// What programs read is UTF-8 whatever the screen shows.
	p.out.ASCII, p.err.ASCII = page.ASCII && (p.format == "text" || p.format == "lines"), page.ASCII
	terminal := term.IsTerminal(int(p.stdout.Fd()))
	if width, err := strconv.Atoi(os.Getenv("COLUMNS")); err == nil && width > 0 {
		page.Width = width
	} else if width, _, err := term.GetSize(int(p.stdout.Fd())); err == nil && width > 0 {
		page.Width = width
	}
	page.Width = min(max(page.Width, 20), 120)
	page.Colour = p.colour == "always" || p.colour == "auto" && terminal && os.Getenv("NO_COLOR") == "" && os.Getenv("TERM") != "dumb"
	return page, nil
}

// utf8Locale says whether the environment promises UTF-8, by the variables of
// POSIX in their order. Where nothing is said, it is taken for granted.
func utf8Locale() bool {
	for _, name := range []string{"LC_ALL", "LC_CTYPE", "LANG"} {
		if value := os.Getenv(name); value != "" {
			value = strings.ToUpper(value)
			return strings.Contains(value, "UTF-8") || strings.Contains(value, "UTF8")
		}
	}
	return true
}

// troubles tells what could not be read and sets the exit status for it.
func (p *program) troubles(all []tree.Trouble) {
	const most = 20
	for i, t := range all {
		if i == most {
			fmt.Fprintf(p.err, "dicaxon: %d more could not be read\n", len(all)-most)
			break
		}
		fmt.Fprintf(p.err, "dicaxon: %s; what is in it was not checked\n", t.Error())
	}
	if len(all) > 0 {
		p.status = statusDisk
	}
}

// pathArg gives the one path of a command, "." where none is given.
func pathArg(args []string) string {
	if len(args) == 0 {
		return "."
	}
	return args[0]
}
