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
	"dicaxon/internal/project"
	"dicaxon/internal/report"
	"dicaxon/internal/rules"
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
			index = slices.DeleteFunc(index, func(s catalogue.Summary) bool { return s.Base })
			if p.format == "json" {
				return report.JSON(p.out, map[string]any{"schema": "dicaxon.layouts/1", "layouts": index})
			}
			if p.format == "markdown" {
				report.LayoutsMarkdown(p.out, index)
			} else {
				page.Layouts(index)
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

// open finds a layout by name or path.
func open(name string) (*layout.Layout, error) {
	dir, _ := os.Getwd()
	l, err := catalogue.Catalogue{Dir: dir}.Layout(name)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, callf("%s", project.NoLayout(name))
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
		return callf("%s", project.NoLayout(full))
	}
	if err != nil {
		return err
	}
	if _, err := rules.Compile(l); err != nil {
		return err
	}
	starters := 0
	for _, e := range l.Entries {
		if e.Starter != "" {
			starters++
		}
	}
	if p.format == "json" {
		return report.JSON(p.out, map[string]any{"schema": "dicaxon.layout-check/1", "layout": l.Name, "entries": len(l.Entries) - 1, "starters": starters, "rules": len(l.Rules)})
	}
	fmt.Fprintf(p.out, "%s is in order: %d entries, %d starters, %d rules.\n", l.Name, len(l.Entries)-1, starters, len(l.Rules))
	return nil
}

func (p *program) showRules(page *report.Page) error {
	switch p.format {
	case "json":
		return report.JSON(p.out, map[string]any{"schema": "dicaxon.rules/1", "rules": report.RuleLines()})
	case "markdown":
		report.RulesMarkdown(p.out)
	default:
		page.Rules()
	}
	return nil
}

func (p *program) showLayout(page *report.Page, name string) error {
	l, err := open(name)
	if err != nil {
		return err
	}
	lines := explain.Layout(l)
	switch p.format {
	case "markdown":
		report.LayoutMarkdown(p.out, l)
		return nil
	case "json":
		return report.JSON(p.out, map[string]any{"schema": "dicaxon.layout/1", "layout": catalogue.Summarise(l), "tree": lines})
	}
	page.Layout(l, lines)
	return nil
}
