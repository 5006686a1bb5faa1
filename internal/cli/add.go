package cli

import (
	"fmt"

	"github.com/spf13/cobra"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/extend"
	"dicaxon/internal/output"
)

func (p *program) add() *cobra.Command {
	var o app.Options
	var answers, only []string
	var dryRun, anyway bool
	root := "."
	cmd := &cobra.Command{
		Use:   "add [UNIT NAME]",
		Short: "Add one more unit, such as an area or a screen, and wire it in",
		Long: `Add makes one more UNIT called NAME in the project that you stand in: its files from the layout's
starters, spelt as those of the units that are there, with the optional ones that most of them
have; and the lines that wire it in, where the others are wired. A unit within another is named
with it, as berths/release. "dicaxon undo" takes it back.

Without arguments it lists the kinds of units that the layout has.`,
		Example: `  dicaxon add
  dicaxon add area tides
  dicaxon add operation berths/release --dry-run
  dicaxon add area tides --only views.py,templates`,
		Args: func(_ *cobra.Command, args []string) error {
			if len(args) == 1 {
				return callf("add %s what? `dicaxon add %s NAME`", args[0], args[0])
			}
			if len(args) > 2 {
				return callf("add takes a unit and one name; %d more were given", len(args)-2)
			}
			return nil
		},
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			if err := p.ready(cmd.Context(), root, &o); err != nil {
				return err
			}
			if len(args) == 0 {
				project, kinds, err := app.Units(cmd.Context(), root, o)
				if err != nil {
					return err
				}
				if p.format == "json" {
					return output.UnitsJSON(p.out, project, kinds)
				}
				page.Units(project, kinds)
				return nil
			}
			given, err := parseAnswers(answers)
			if err != nil {
				return err
			}
			r, err := app.Add(cmd.Context(), root, extend.Options{Unit: args[0], Name: args[1], Answers: given, Only: only}, o)
			if err != nil {
				return err
			}
			broken := r.After.Error > r.Before.Error && !anyway
			if broken {
				dryRun, p.status = true, statusFindings
			}
			if !dryRun {
				why := changes.Why{Command: "dicaxon add " + args[0] + " " + args[1], Summary: output.Sum(&r.Plan.Plan)}
				if err := p.carryOut(cmd.Context(), r.Root, &r.Plan.Plan, why); err != nil {
					return err
				}
			}
			switch p.format {
			case "json":
				return output.PlanJSON(p.out, r, !dryRun)
			case "patch":
				return output.PlanPatch(p.out, r.Workspace, &r.Plan.Plan)
			}
			page.Added(r, !dryRun)
			switch {
			case broken:
				fmt.Fprintf(p.out, "\nNothing was written: the starters do not suit this project as it is. --anyway writes it, to be finished by hand.\n")
			case dryRun:
				fmt.Fprintf(p.out, "\nNothing was written: this is what add would make.\n")
			default:
				fmt.Fprintf(p.out, "\n`dicaxon undo` takes it back.\n")
			}
			return nil
		},
	}
	layoutFlag(cmd, &o.Layout)
	rootFlag(cmd, &root)
	cmd.Flags().StringArrayVar(&answers, "answer", nil, "an answer, as key=value; may be given several times")
	cmd.Flags().StringSliceVar(&only, "only", nil, "only these of its files, or what is in folders of these names")
	cmd.Flags().BoolVar(&dryRun, "dry-run", false, "show what would be made, and make nothing")
	cmd.Flags().BoolVar(&anyway, "anyway", false, "write it even where a check would find errors in it")
	p.formatFlag(cmd, "patch")
	return cmd
}
