package cli

import (
	"fmt"
	"os"
	"sync"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/check"
	"dicaxon/internal/finding"
	"dicaxon/internal/report"
)

func (p *program) check() *cobra.Command {
	var o check.Options
	failOn := "error"
	most := 200
	cmd := &cobra.Command{
		Use:   "check [PATH]",
		Short: "Flag what is missing, extra, misplaced or misnamed",
		Long: `Check compares the repository at PATH (here, if left out) with the layout of its framework.

The layout is the one that --layout names, else the one that dicaxon.yaml at the root names for
each project, else the one that the repository's files and dependencies point to.

Exit status: 0 nothing at the failing level, 1 findings at it or above, 2 the call, a layout or
dicaxon.yaml is wrong, 3 something could not be read.`,
		Example: `  dicaxon check
  dicaxon check services/berths --layout flask/areas
  dicaxon check --layout ./our-layout --fail-on warning
  dicaxon check --format json`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			level, err := finding.ParseLevel(failOn)
			if err != nil {
				return callf("--fail-on: %v", err)
			}
			page, err := p.page()
			if err != nil {
				return err
			}
			r, err := p.run(pathArg(args), o)
			if err != nil {
				return err
			}
			if p.format == "json" {
				err = report.CheckJSON(p.out, r)
			} else {
				page.Check(r, most)
			}
			if r.Totals.AtLeast(level) {
				p.status = statusFindings
			}
			p.troubles(r.Troubles)
			return err
		},
	}
	layoutFlag(cmd, &o.Layout)
	cmd.Flags().StringVar(&failOn, "fail-on", failOn, "the mildest level that makes the exit status 1: error, warning or note")
	cmd.Flags().IntVar(&most, "most", most, "how many findings of a project to show as text; 0 for all")
	p.formatFlag(cmd)
	return cmd
}

// layoutFlag gives a command the option --layout.
func layoutFlag(cmd *cobra.Command, to *string) {
	cmd.Flags().StringVar(to, "layout", "", "the layout to follow: family/variant, or the path of a layout's folder")
	_ = cmd.RegisterFlagCompletionFunc("layout", completeLayouts)
}

func completeLayouts(*cobra.Command, []string, string) ([]string, cobra.ShellCompDirective) {
	return catalogue.Catalogue{}.Names(), cobra.ShellCompDirectiveDefault
}

// run checks a repository, with progress shown for a long read.
func (p *program) run(root string, o check.Options) (*check.Report, error) {
	o.Dir, _ = os.Getwd()
	show, done := p.progress()
	o.Progress = show
	defer done()
	return check.Run(root, o)
}

// progress shows how many names were read, on a terminal and only when reading
// takes a while.
func (p *program) progress() (show func(names int), done func()) {
	if !term.IsTerminal(int(p.stderr.Fd())) {
		return nil, func() {}
	}
	const pause = 200 * time.Millisecond
	var (
		mu    sync.Mutex
		next  = time.Now().Add(time.Second)
		shown bool
	)
	show = func(names int) {
		mu.Lock()
		defer mu.Unlock()
		if now := time.Now(); now.After(next) {
			fmt.Fprintf(p.err, "\rreading … %d names", names)
			next, shown = now.Add(pause), true
		}
	}
	return show, func() {
		if shown {
			fmt.Fprint(p.err, "\r\x1b[K") // back to an empty line
		}
	}
}
