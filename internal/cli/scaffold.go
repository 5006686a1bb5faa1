package cli

import (
	"errors"
	"fmt"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/changes"
	"dicaxon/internal/layout"
	"dicaxon/internal/output"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

func (p *program) scaffold() *cobra.Command {
	var answers []string
	var yes, dryRun, git bool
	cmd := &cobra.Command{
		Use:   "scaffold [LAYOUT] [DIR]",
		Short: "Start a project that runs and passes its own check",
		Long: `Scaffold starts a project in DIR with the layout LAYOUT. On a terminal it asks what it needs to
know; elsewhere, or with --yes, it takes the answers given and defaults for the rest.

It writes nothing over anything: DIR must be absent or empty. It makes all of the project or,
when something fails, none of it.`,
		Example: `  dicaxon scaffold
  dicaxon scaffold flask/areas ferry --answer area=sailings,berths
  dicaxon scaffold go/service tides --yes --git
  dicaxon scaffold dbt/layers warehouse --dry-run`,
		Args:              cobra.MaximumNArgs(2),
		ValidArgsFunction: completeLayouts,
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			given, err := parseAnswers(answers)
			if err != nil {
				return err
			}
			talk := p.asker(page, !yes && term.IsTerminal(int(p.stdin.Fd())) && term.IsTerminal(int(p.stderr.Fd())))
			l, dir, err := talk.choose(args)
			if err != nil {
				return err
			}
			if !dryRun {
				if err := p.write(func() error { return scaffold.Clear(cmd.Context(), dir) }); err != nil {
					return taken(err)
				}
				if err := fits(dir, git); err != nil {
					return err
				}
			}
			if err := talk.answers(l, dir, given); err != nil {
				return err
			}
			plan, err := scaffold.Make(l, given)
			if err != nil {
				return asCall(err)
			}
			if l.Dir != "" {
				plan.Record(catalogue.PathFrom(dir, l.Dir), given)
			}
			if !dryRun {
				fresh := absent(dir)
				if err := p.write(func() error { return plan.Write(cmd.Context(), dir, git) }); err != nil {
					return taken(err)
				}
				noted(plan, dir, fresh)
			}
			return p.scaffolded(page, plan, dir, dryRun)
		},
	}
	cmd.Flags().StringArrayVar(&answers, "answer", nil, "an answer, as key=value; may be given several times")
	cmd.Flags().BoolVar(&yes, "yes", false, "ask nothing: take defaults for what --answer leaves out")
	cmd.Flags().BoolVar(&dryRun, "dry-run", false, "show what would be made, and make nothing")
	cmd.Flags().BoolVar(&git, "git", false, "make a git repository too, with a first commit")
	p.formatFlag(cmd)
	return cmd
}

// absent counts the folders on the way to one that are not there.
func absent(dir string) (n int) {
	for at := filepath.Clean(dir); !tree.IsDir(at); at = filepath.Dir(at) {
		n++
	}
	return n
}

// noted lets undo know what was made, with as many of the folders around it. Who cannot
// keep that goes without.
func noted(plan *scaffold.Plan, dir string, fresh int) {
	root := workspace.Root(dir, "")
	below, err := workspace.Within(root, dir)
	if err != nil {
		return
	}
	var made []changes.Make
	for i := range below {
		if below[i] == '/' && strings.Count(below[i:], "/") <= fresh {
			made = append(made, changes.Make{Path: below[:i+1]})
		}
	}
	for _, item := range plan.Items {
		made = append(made, item.Made(below))
	}
	_ = changes.Note(root, changes.Why{Command: "dicaxon scaffold " + plan.Layout.Name, Summary: fmt.Sprintf("%d files and folders", len(plan.Items))}, made)
}

func fits(dir string, git bool) error { return taken(scaffold.Fits(dir, git)) }

// taken makes a folder that holds something a mistake in the call; other errors stay.
func taken(err error) error {
	if errors.Is(err, scaffold.ErrNotEmpty) {
		return asCall(err)
	}
	return err
}

func parseAnswers(all []string) (map[string]string, error) {
	given := map[string]string{}
	for _, a := range all {
		key, value, ok := strings.Cut(a, "=")
		if !ok || key == "" {
			return nil, callf("--answer %s: write it as key=value", a)
		}
		if _, twice := given[key]; twice {
			return nil, callf("--answer gives %s twice; several names go into one answer, with commas between them", key)
		}
		given[key] = value
	}
	return given, nil
}

// scaffolded says what was made, or would be, and what to do next.
func (p *program) scaffolded(page *output.Page, plan *scaffold.Plan, dir string, dryRun bool) error {
	files, folders := 0, 0
	var paths []string
	for _, item := range plan.Items {
		paths = append(paths, item.Path)
		if strings.HasSuffix(item.Path, "/") {
			folders++
		} else {
			files++
		}
	}
	if p.format == "json" {
		return output.JSON(p.out, map[string]any{"schema": "dicaxon.scaffold/1", "layout": plan.Layout.Name, "at": dir,
			"written": !dryRun, "paths": paths, "firstSteps": plan.FirstSteps})
	}
	page.DrawTree(strings.TrimSuffix(dir, "/")+"/", plan.Layout.Name+": "+plan.Layout.Title, plan.Tree())
	if dryRun {
		fmt.Fprintf(p.out, "\nNothing was written: this is what scaffold would make, %d files in %d folders.\n", files, folders+1)
		return nil
	}
	fmt.Fprintf(p.out, "\nMade %d files in %d folders. First steps:\n\n", files, folders+1)
	if dir != "." {
		fmt.Fprintf(p.out, "  cd %s\n", tree.Printable(dir))
	}
	for _, step := range plan.FirstSteps {
		fmt.Fprintf(p.out, "  %s\n", tree.Printable(step))
	}
	return nil
}

// choose settles the layout and the folder.
func (t *asker) choose(args []string) (*layout.Layout, string, error) {
	name, dir := "", ""
	if len(args) > 0 {
		name = args[0]
	}
	if len(args) > 1 {
		dir = args[1]
	}
	if name == "" {
		var err error
		if name, err = t.layout(); err != nil {
			return nil, "", err
		}
	}
	l, err := open(name)
	if err != nil {
		return nil, "", err
	}
	if l.Base {
		return nil, "", callf("%s is there to be built on; `dicaxon layouts` lists the layouts to start from", l.Name)
	}
	if dir == "" {
		if dir, err = t.line("Folder of the project", "", nil); err != nil {
			return nil, "", err
		}
	}
	return l, dir, nil
}
