package cli

import (
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"slices"

	"github.com/spf13/cobra"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/explain"
	"dicaxon/internal/layout"
	"dicaxon/internal/output"
	"dicaxon/internal/rules"
	"dicaxon/internal/workspace"
)

func (p *program) layouts() *cobra.Command {
	var schema, listRules bool
	var folder string
	cmd := &cobra.Command{
		Use:   "layouts [LAYOUT]",
		Short: "List the layouts, or show one with its roles",
		Example: `  dicaxon layouts
  dicaxon layouts flask/areas
  dicaxon layouts ./our-layout
  dicaxon layouts --check ./our-layout
  dicaxon layouts --schema > layout.schema.json
  dicaxon layouts --rules
  dicaxon layouts flask/areas --format markdown`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: completeLayouts,
		RunE: func(_ *cobra.Command, args []string) error {
			page, err := p.page()
			switch {
			case err != nil:
				return err
			case schema:
				_, err := p.out.Write(layout.Schema)
				return err
			case listRules:
				return p.showRules(page)
			case folder != "":
				return p.checkLayout(folder)
			case len(args) == 1:
				return p.showLayout(page, args[0])
			}
			index, err := catalogue.Catalogue{}.Index()
			if err != nil {
				return err
			}
			all := slices.DeleteFunc(index.Layouts, func(s catalogue.Summary) bool { return s.Base })
			all = append(all, teamLayouts(".")...)
			switch p.format {
			case "json":
				return output.LayoutsJSON(p.out, all)
			case "markdown":
				output.LayoutsMarkdown(p.out, all)
			default:
				page.Layouts(all)
			}
			return nil
		},
	}
	cmd.Flags().BoolVar(&schema, "schema", false, "print the JSON Schema of the layout language")
	cmd.Flags().StringVar(&folder, "check", "", "check the layout in a folder of your own")
	cmd.Flags().BoolVar(&listRules, "rules", false, "list the rules that a layout can ask for")
	exclusive(cmd, "schema", "check", "rules")
	p.formatFlag(cmd, "markdown")
	return cmd
}

// teamLayouts lists the layouts of a team's own that the dicaxon.yaml of the
// repository around a folder names.
func teamLayouts(at string) []catalogue.Summary {
	var all []catalogue.Summary
	for _, l := range workspace.TeamLayouts(at) {
		s := catalogue.Summarise(l)
		s.Name = catalogue.PathFrom(at, l.Dir)
		all = append(all, s)
	}
	return all
}

// open finds a layout by name or path.
func open(name string) (*layout.Layout, error) {
	dir, _ := os.Getwd()
	name = catalogue.Called(name)
	l, err := catalogue.Catalogue{Dir: dir}.Layout(name)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, callf("%s", workspace.NoLayout(name))
	}
	return l, err
}

// checkLayout checks a team's layout; a folder need not begin with a dot here.
func (p *program) checkLayout(folder string) error {
	full, err := filepath.Abs(folder)
	if err != nil {
		return err
	}
	l, err := layout.Resolve(catalogue.Catalogue{Dir: filepath.Dir(full)}, "./"+filepath.Base(full))
	if errors.Is(err, fs.ErrNotExist) {
		return callf("%s", workspace.NoLayout(full))
	}
	if err != nil {
		return err
	}
	common, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		return err
	}
	if _, err := rules.Compile(l, common); err != nil {
		return err
	}
	starters := 0
	for _, e := range l.Entries {
		if e.Starter != "" {
			starters++
		}
	}
	if p.format == "json" {
		return output.LayoutCheckJSON(p.out, l, starters)
	}
	fmt.Fprintf(p.out, "%s is in order: %d entries, %d starters, %d rules.\n", l.Name, len(l.Entries)-1, starters, len(l.Rules))
	return nil
}

func (p *program) showRules(page *output.Page) error {
	switch p.format {
	case "json":
		return output.RulesJSON(p.out)
	case "markdown":
		output.RulesMarkdown(p.out)
	default:
		page.Rules()
	}
	return nil
}

func (p *program) showLayout(page *output.Page, name string) error {
	l, err := open(name)
	if err != nil {
		return err
	}
	lines := explain.Layout(l)
	switch p.format {
	case "markdown":
		output.LayoutMarkdown(p.out, l)
		return nil
	case "json":
		return output.LayoutJSON(p.out, l, lines)
	}
	page.Layout(l, lines)
	return nil
}
