package cli

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"slices"
	"strconv"
	"strings"

	"github.com/spf13/cobra"
	"golang.org/x/term"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/output"
	"dicaxon/internal/realign"
	"dicaxon/internal/rules"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// realigning are the flags of realign.
type realigning struct {
	app.RealignOptions
	level             string
	only, skip, moves []string
	write, choose     bool
	tree              bool
	plan              string
}

func (p *program) realign() *cobra.Command {
	f := realigning{level: "warning"}
	cmd := &cobra.Command{
		Use:   "realign [PATH]",
		Short: "Put right what check flags: moves, new files, and the references that follow",
		Long: `Realign shows what would put the repository at PATH right: files and folders that move, files
that the layout starts, units that are wired in, and every reference that follows, with its line.
Nothing is written without --write, and "dicaxon undo" takes it back.

It does what is certain. A plan that would bring a new finding, or let a reference lead nowhere,
is not made; what is left is listed, with at most three choices. No text of yours is deleted.

--map FROM=TO moves what you say, with its references, whatever the layout has to say of it.
--format patch gives the plan as a patch; --format json gives it as data, which --plan writes
later, as long as nothing that it touches has changed.`,
		Example: `  dicaxon realign
  dicaxon realign --write
  dicaxon realign --only misplaced --skip wired
  dicaxon realign app/berths --write
  dicaxon realign --map app/tides.py=app/tides/views.py
  dicaxon realign --to flask/areas
  dicaxon realign --format patch | git apply --check
  dicaxon realign --format json > plan.json; dicaxon realign --plan plan.json --write`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			if err := p.ready(cmd.Context(), pathArg(args), &f.Options); err != nil {
				return err
			}
			if f.plan != "" {
				return p.writePlan(cmd.Context(), page, pathArg(args), &f)
			}
			if err := f.understand(); err != nil {
				return err
			}
			r, err := p.planned(cmd.Context(), pathArg(args), &f)
			if err != nil {
				return err
			}
			if f.write && !r.Empty() {
				why := changes.Why{Command: "dicaxon realign", Summary: output.Sum(&r.Plan.Plan)}
				if err := p.carryOut(cmd.Context(), r.Root, &r.Plan.Plan, why); err != nil {
					return err
				}
			}
			if f.tree && p.format == "text" {
				page.PlanTree(r)
				return nil
			}
			return p.showPlan(page, r, f.write)
		},
	}
	cmd.Flags().StringVar(&f.Layout, "to", "", "the layout that the project is to follow: family/variant, or the path of a layout's folder")
	_ = cmd.RegisterFlagCompletionFunc("to", completeLayouts)
	cmd.Flags().StringArrayVar(&f.moves, "map", nil, "move FROM to TO, as FROM=TO; may be given several times")
	cmd.Flags().StringVar(&f.level, "level", f.level, "the mildest level of findings that are put right: error, warning or note")
	cmd.Flags().StringSliceVar(&f.only, "only", nil, "only these kinds, rules, paths, or numbers of the plan")
	cmd.Flags().StringSliceVar(&f.skip, "skip", nil, "not these kinds, rules, paths, or numbers of the plan")
	cmd.Flags().BoolVar(&f.write, "write", false, "do it")
	cmd.Flags().BoolVar(&f.tree, "tree", false, "draw what changes as a tree, before and after")
	cmd.Flags().BoolVar(&f.choose, "choose", false, "ask of each part of the plan whether to take it")
	cmd.Flags().StringVar(&f.plan, "plan", "", "write the plan that an earlier call gave with --format json")
	exclusive(cmd, "plan", "map")
	exclusive(cmd, "plan", "to")
	p.formatFlag(cmd, "patch")
	return cmd
}

// understand reads the flags that are more than texts.
func (f *realigning) understand() (err error) {
	if f.Least, err = finding.ParseLevel(f.level); err != nil {
		return callf("--level: %v", err)
	}
	for _, m := range f.moves {
		from, to, ok := strings.Cut(m, "=")
		if !ok || from == "" || to == "" {
			return callf("--map %s: write it as FROM=TO", m)
		}
		f.Moves = append(f.Moves, changes.Move{From: from, To: to})
	}
	return nil
}

// planned makes the plan, and keeps of it what was asked for.
func (p *program) planned(ctx context.Context, at string, f *realigning) (*app.Realignment, error) {
	f.RealignOptions.Findings = f.Layout != ""
	show, done := p.progress()
	f.Progress = show
	defer done()
	if len(f.Moves) > 0 { // from where one stands
		for i := range f.Moves {
			m := &f.Moves[i]
			m.From, m.To = workspace.Below(at, m.From), workspace.Below(at, m.To)
		}
	}
	f.Wants = nil
	if len(f.only)+len(f.skip) > 0 {
		if err := partsKnown(append(slices.Clone(f.only), f.skip...)); err != nil {
			return nil, err
		}
		f.Wants = func(n int, g *realign.Group) bool {
			return (len(f.only) == 0 || isPart(n, g, f.only)) && !isPart(n, g, f.skip)
		}
	}
	if f.choose {
		if !term.IsTerminal(int(p.stdin.Fd())) {
			return nil, callf("--choose asks questions, and there is nobody to ask; --only takes parts of the plan")
		}
		done()
		talk := p.asker(&output.Page{}, true)
		f.Wants = func(n int, g *realign.Group) bool { return talk.take(n, g) }
	}
	return app.Realign(ctx, at, f.RealignOptions)
}

// take asks whether a part of a plan is to be done.
func (t *asker) take(n int, g *realign.Group) bool {
	for _, m := range g.Moves {
		fmt.Fprintf(t.to, "move %s to %s\n", tree.Printable(m.From), tree.Printable(m.To))
	}
	for _, m := range g.Makes {
		fmt.Fprintf(t.to, "make %s\n", tree.Printable(m.Path))
	}
	for _, e := range g.Edits {
		fmt.Fprintf(t.to, "edit %s:%d\n", tree.Printable(e.Path), e.Line)
	}
	answer, err := t.line(fmt.Sprintf("  %d: %s. Take it? y or n", n, tree.Printable(g.Says)), "y", func(answer string) error {
		if answer != "y" && answer != "n" {
			return errors.New("y or n")
		}
		return nil
	})
	return err == nil && answer == "y"
}

// partsKnown says whether words can name parts of a plan.
func partsKnown(words []string) error {
	for _, word := range words {
		if word == "" {
			return callf("--only and --skip take kinds, rules, paths, or numbers of the plan")
		}
		if _, err := strconv.Atoi(word); err == nil || strings.ContainsAny(word, "/.") || slices.Contains(finding.KindWords(), word) || slices.Contains(rules.Names(), word) {
			continue
		}
		if _, err := os.Lstat(word); err == nil {
			continue
		}
		return callf("--only or --skip %s: it is no kind of finding, no rule, no path and no number of the plan", word)
	}
	return nil
}

func isPart(n int, g *realign.Group, words []string) bool {
	return slices.ContainsFunc(words, func(word string) bool {
		plain := strings.TrimSuffix(word, "/")
		return word == string(g.Kind) || word == g.Rule && word != "" || word == strconv.Itoa(n) || strings.TrimSuffix(g.Path, "/") == plain || strings.HasPrefix(g.Path, plain+"/")
	})
}

// showPlan writes a plan in the format asked for.
func (p *program) showPlan(page *output.Page, r *app.Realignment, written bool) error {
	switch p.format {
	case "json":
		return output.PlanJSON(p.out, r, written)
	case "patch":
		return output.PlanPatch(p.out, r.Workspace, &r.Plan.Plan)
	}
	page.Plan(r, written)
	switch {
	case r.Empty():
	case written:
		fmt.Fprintf(p.out, "\n`dicaxon undo` takes it back.\n")
	default:
		fmt.Fprintf(p.out, "\nNothing was written. `dicaxon realign --write` does it; --format patch shows every line.\n")
	}
	return nil
}

// writePlan writes a plan that was saved.
func (p *program) writePlan(ctx context.Context, page *output.Page, at string, f *realigning) error {
	saved, err := output.ReadPlan(f.plan)
	var unread *fs.PathError
	switch {
	case errors.As(err, &unread):
		return err
	case err != nil:
		return asCall(err)
	}
	root := workspace.Root(at, "")
	summary := output.Sum(saved)
	if !f.write {
		fmt.Fprintf(p.out, "The plan: %s.\n\nNothing was written. With --write it is.\n", summary)
		return nil
	}
	if err := p.carryOut(ctx, root, saved, changes.Why{Command: "dicaxon realign", Summary: summary}); err != nil {
		return err
	}
	fmt.Fprintf(p.out, "Done: %s.\n\n`dicaxon undo` takes it back.\n", summary)
	return nil
}

// ready sets out a command that writes, or tells what it would write, below a path: what an
// earlier one left half done is taken back before anything is made of what lies there.
func (p *program) ready(ctx context.Context, at string, o *app.Options) error {
	o.Dir, _ = os.Getwd()
	o.Remember = true
	return p.recovered(ctx, at)
}

// recovered takes back what an earlier run below the root of a path was cut off at, and
// says so.
func (p *program) recovered(ctx context.Context, at string) error {
	root := workspace.Root(at, "")
	return p.write(func() error {
		if changes.Unfinished(root) == "" {
			_, err := changes.Clear(ctx, root)
			return err
		}
		half, err := changes.Recover(ctx, root)
		if half != nil {
			fmt.Fprintf(p.err, "dicaxon: an earlier `%s` was cut off here; what it had begun is taken back\n", tree.Printable(half.Command))
		}
		return err
	})
}

// carryOut writes a plan. What the caller can mend is a mistake in the call.
func (p *program) carryOut(ctx context.Context, root string, plan *changes.Plan, why changes.Why) error {
	return p.write(func() error {
		// Undo looks in the repository, where one may stand anywhere.
		top := workspace.Root(root, "")
		below, err := workspace.Within(top, root)
		if err == nil {
			_, err = plan.Below(below).Write(ctx, top, why)
		}
		dirty := new(changes.DirtyError)
		if errors.As(err, &dirty) || errors.Is(err, changes.ErrTaken) || errors.Is(err, changes.ErrChanged) || errors.Is(err, changes.ErrOutside) {
			return asCall(err)
		}
		return err
	})
}
