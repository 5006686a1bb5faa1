package cli

import (
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"

	"github.com/spf13/cobra"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/output"
	"dicaxon/internal/place"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

func (p *program) place() *cobra.Command {
	var o app.Options
	var move bool
	root := "."
	cmd := &cobra.Command{
		Use:   "place NAME|FILE|WORDS…",
		Short: "Say where a file belongs, from its name, its text, or words",
		Long: `Place says where something belongs: a file that is there, from what it says and who uses it; a
name that is not there yet; or what words describe. It answers with one place and the reason, or
with three at most; where that depends on you, it says on what.

With --move, files that have one place are moved there, with every reference to them;
"dicaxon undo" takes it back.`,
		Example: `  dicaxon place card.html
  dicaxon place berths/card.html
  dicaxon place app/tide_table.py
  dicaxon place "helper that formats a tide table"
  dicaxon place app/tide_table.py --move`,
		Args: func(_ *cobra.Command, args []string) error {
			if len(args) == 0 || slices.ContainsFunc(args, func(a string) bool { return strings.TrimSpace(a) == "" }) {
				return callf("place what? A name, a file, or words that describe it")
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
			if !move && len(args) > 1 && !anyThere(args) {
				args = []string{strings.Join(args, " ")}
			}
			var all []*place.Answer
			for _, asked := range args {
				a, err := app.Place(cmd.Context(), root, asked, o)
				if err != nil {
					return err
				}
				all = append(all, a)
			}
			if move {
				return p.moveTo(cmd, page, root, all, o)
			}
			if p.format == "json" {
				return output.PlacesJSON(p.out, all)
			}
			for i, a := range all {
				if i > 0 {
					fmt.Fprintln(p.out)
				}
				page.Place(a)
			}
			return nil
		},
	}
	layoutFlag(cmd, &o.Layout)
	rootFlag(cmd, &root)
	cmd.Flags().BoolVar(&move, "move", false, "move files that have one place there, with their references")
	p.formatFlag(cmd)
	return cmd
}

// anyThere says whether one of several arguments is a path, so that each is one.
func anyThere(args []string) bool {
	for _, a := range args {
		if _, err := os.Lstat(a); err == nil || strings.ContainsAny(a, "/.") {
			return true
		}
	}
	return false
}

// moveTo moves what has one place.
func (p *program) moveTo(cmd *cobra.Command, page *output.Page, root string, all []*place.Answer, o app.Options) error {
	var moves []changes.Move
	for _, a := range all {
		switch asked := tree.Printable(a.Asked); {
		case !a.There:
			return callf("%s is not there, so there is nothing to move", asked)
		case a.Home:
			return callf("%s is where it belongs", asked)
		case len(a.Places) == 0:
			return callf("nothing says where %s belongs; `dicaxon realign --map %s=TO` moves it where you say", asked, asked)
		case len(a.Places) > 1 || strings.Contains(a.Places[0].Path, "<"):
			return callf("%s may belong in several places; `dicaxon place %s` names them", asked, asked)
		}
		moves = append(moves, changes.Move{From: workspace.Below(root, filepath.Join(root, a.Asked)), To: a.Places[0].Path})
	}
	r, err := app.Realign(cmd.Context(), root, app.RealignOptions{Options: o, Least: finding.Warning, Moves: moves})
	if err != nil {
		return err
	}
	if err := p.carryOut(cmd.Context(), r.Root, &r.Plan.Plan, changes.Why{Command: "dicaxon place --move", Summary: output.Sum(&r.Plan.Plan)}); err != nil {
		return err
	}
	return p.showPlan(page, r, true)
}
