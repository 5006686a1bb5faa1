package cli

import (
	"context"
	"fmt"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"dicaxon/internal/app"
	"dicaxon/internal/baseline"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/changes"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/output"
	"dicaxon/internal/rules"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

func (p *program) check() *cobra.Command {
	var o app.Options
	var accept bool
	var meaning string
	var verbose, anew bool
	failOn := "error"
	most := 200
	cmd := &cobra.Command{
		Use:   "check [PATH]",
		Short: "Flag what is missing, extra, misplaced or misnamed",
		Long: `Check compares the repository at PATH (here, if left out) with the layout of its framework.

The layout is the one that --layout names, else the one that dicaxon.yaml at the root names for
each project, else the one that the repository's files and dependencies point to.

With --since main it tells only what was not found in main already; with --staged, what the next
commit would bring. --at v2 checks a revision without checking it out. --accept writes what is
found today into dicaxon-accepted.json, and from then on only what is new is told.

Exit status: 0 nothing at the failing level, 1 findings at it or above, 2 the call, a layout or
dicaxon.yaml is wrong, 3 something could not be read.`,
		Example: `  dicaxon check
  dicaxon check services/berths --layout flask/areas
  dicaxon check --layout ./our-layout --fail-on warning
  dicaxon check --since main --skip crowded
  dicaxon check --staged
  dicaxon check --accept
  dicaxon check --explain tangled
  dicaxon check --format html > layout.html`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			if meaning != "" {
				return p.meaning(page, meaning)
			}
			level, err := finding.ParseLevel(failOn)
			if err != nil {
				return callf("--fail-on: %v", err)
			}
			if err := knownWords(o.Only, o.Skip); err != nil {
				return err
			}
			if o.Staged && o.Since == "" {
				o.Since = "HEAD"
			}
			o.Anew = accept
			o.Remember, o.Findings = !anew, p.format != "html"
			r, err := p.run(cmd.Context(), pathArg(args), o)
			if err != nil {
				return err
			}
			if accept {
				return p.write(func() error {
					n, err := baseline.Accept(cmd.Context(), r.Workspace, baseline.Options{Only: o.Only, Skip: o.Skip, Within: r.Within})
					if err == nil {
						page.Accepted(n)
					}
					return err
				})
			}
			if half := changes.Unfinished(r.Root); half != "" {
				fmt.Fprintf(p.err, "dicaxon: an earlier `%s` was cut off here; `dicaxon undo` takes back what it had begun\n", tree.Printable(half))
			}
			err = p.writeCheck(page, r, most, verbose)
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
	cmd.Flags().BoolVarP(&verbose, "verbose", "v", false, "tell as well why a layout was chosen and what it says of each place")
	cmd.Flags().StringVar(&o.At, "at", "", "check a revision of git instead of what is on the disk")
	cmd.Flags().BoolVar(&o.Staged, "staged", false, "check what is staged, and tell what it would bring")
	cmd.Flags().StringVar(&o.Since, "since", "", "tell only what was not found in this revision of git already")
	cmd.Flags().BoolVar(&anew, "no-cache", false, "read every file anew, and remember nothing of what is found")
	cmd.Flags().BoolVar(&accept, "accept", false, "accept what is found today, in a file")
	cmd.Flags().StringSliceVar(&o.Only, "only", nil, "only findings of these kinds or rules")
	cmd.Flags().StringSliceVar(&o.Skip, "skip", nil, "no findings of these kinds or rules")
	cmd.Flags().StringVar(&o.Schemas, "schemas", "", "compare folders with the schemas of a database: \"environment\" for the one that DATABASE_URL or PGHOST and PGDATABASE name, a saved list (CSV or JSON), or an address (postgres://…)")
	cmd.Flags().StringVar(&meaning, "explain", "", "say what a kind of finding means and how to put it right")
	exclusive(cmd, "at", "staged")
	for _, flag := range []string{"only", "skip", "explain"} {
		_ = cmd.RegisterFlagCompletionFunc(flag, cobra.FixedCompletions(finding.KindWords(), cobra.ShellCompDirectiveNoFileComp))
	}
	p.formatFlag(cmd, "lines", "markdown", "html", "sarif", "junit")
	return cmd
}

// writeCheck writes a check's answer in the format asked for.
func (p *program) writeCheck(page *output.Page, r *app.Report, most int, verbose bool) error {
	switch p.format {
	case "json":
		return output.CheckJSON(p.out, r)
	case "lines":
		output.CheckLines(p.out, r)
		return nil
	case "sarif":
		return output.SARIF(p.out, r, Version)
	case "junit":
		return output.JUnit(p.out, r)
	case "markdown":
		output.CheckMarkdown(p.out, r)
		return nil
	case "html":
		var trees [][]explain.Line
		for _, pr := range r.Projects {
			trees = append(trees, explain.Tree(r.Workspace, pr, 0))
		}
		return output.HTML(p.out, r, trees)
	}
	page.Check(r, most, verbose)
	return nil
}

// meaning says what a kind of finding means.
func (p *program) meaning(page *output.Page, kind string) error {
	m := finding.Meant(kind)
	if m == nil {
		if meant := names.Closest(kind, finding.KindWords()); meant != "" {
			return callf("--explain %s: did you mean %s?", kind, meant)
		}
		return callf("%q is no kind of finding; the kinds are %s", kind, strings.Join(finding.KindWords(), ", "))
	}
	if p.format == "json" {
		return output.JSON(p.out, m)
	}
	page.Meaning(m)
	return nil
}

// calledRules lists the names that layouts give their rules, those of a team around here among them.
func calledRules() (all []string) {
	layouts := workspace.TeamLayouts(".")
	for _, name := range append((catalogue.Catalogue{}).Names(), catalogue.CommonplaceName) {
		if l, err := (catalogue.Catalogue{}).Layout(name); err == nil {
			layouts = append(layouts, l)
		}
	}
	for _, l := range layouts {
		for i := range l.Rules {
			all = append(all, l.Rules[i].Called())
		}
	}
	return all
}

// knownWords refuses what is neither a kind nor a rule.
func knownWords(lists ...[]string) error {
	known := append(finding.KindWords(), rules.Names()...)
	called := sync.OnceValue(calledRules)
	for _, list := range lists {
		for _, word := range list {
			if slices.Contains(known, word) || slices.Contains(called(), word) {
				continue
			}
			if meant := names.Closest(word, append(known, called()...)); meant != "" {
				return callf("%q is neither a kind of finding nor a rule; did you mean %s?", word, meant)
			}
			return callf("%q is neither a kind of finding nor a rule; the kinds are %s", word, strings.Join(finding.KindWords(), ", "))
		}
	}
	return nil
}

// layoutFlag gives a command the option --layout.
func layoutFlag(cmd *cobra.Command, to *string) {
	cmd.Flags().StringVar(to, "layout", "", "the layout to follow: family/variant, or the path of a layout's folder")
	_ = cmd.RegisterFlagCompletionFunc("layout", completeLayouts)
}

func rootFlag(cmd *cobra.Command, to *string) {
	cmd.Flags().StringVar(to, "root", *to, "a folder of the repository; where you are, if left out")
}

func completeLayouts(_ *cobra.Command, _ []string, begun string) ([]string, cobra.ShellCompDirective) {
	var names []string
	for _, s := range append(catalogue.Catalogue{}.Index().Followed(), teamLayouts(".")...) {
		if strings.HasPrefix(s.Name, begun) {
			names = append(names, s.Name)
		}
	}
	return names, cobra.ShellCompDirectiveDefault
}

// run checks a repository, with progress shown for a long read.
func (p *program) run(ctx context.Context, root string, o app.Options) (*app.Report, error) {
	o.Dir, _ = os.Getwd()
	show, done := p.progress()
	o.Progress = show
	defer done()
	return app.Check(ctx, root, o)
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
			fmt.Fprintf(p.stderr, "\rreading: %d names", names)
			next, shown = now.Add(pause), true
		}
	}
	return show, func() {
		if shown {
			fmt.Fprint(p.stderr, "\r\x1b[K") // back to an empty line
		}
	}
}
