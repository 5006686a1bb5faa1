package cli

import (
	"context"
	"errors"
	"io/fs"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/explain"
	"dicaxon/internal/layout"
	"dicaxon/internal/output"
	"dicaxon/internal/rules"
	"dicaxon/internal/workspace"
)

func (p *program) layouts() *cobra.Command {
	var listRules bool
	var schema, folder string
	cmd := &cobra.Command{
		Use:   "layouts [LAYOUT]",
		Short: "List the layouts, or show one with its roles",
		Example: `  dicaxon layouts
  dicaxon layouts flask/areas
  dicaxon layouts ./our-layout
  dicaxon layouts --check ./our-layout
  dicaxon layouts --schema > layout.schema.json
  dicaxon layouts --schema=repository > dicaxon.schema.json
  dicaxon layouts --rules
  dicaxon layouts flask/areas --format markdown`,
		Args:              cobra.MaximumNArgs(1),
		ValidArgsFunction: completeLayouts,
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			switch {
			case err != nil:
				return err
			case schema != "":
				return p.schema(schema)
			case listRules:
				return p.showRules(page)
			case folder != "":
				return p.checkLayout(cmd.Context(), folder)
			case len(args) == 1:
				return p.showLayout(page, args[0])
			}
			all := append(catalogue.Catalogue{}.Index().Followed(), teamLayouts(".")...)
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
	cmd.Flags().StringVar(&schema, "schema", "", "print the JSON Schema of the layout language, or with =repository that of dicaxon.yaml")
	cmd.Flags().Lookup("schema").NoOptDefVal = "layout"
	cmd.Flags().StringVar(&folder, "check", "", "check the layout in a folder of your own")
	cmd.Flags().BoolVar(&listRules, "rules", false, "list the rules that a layout can ask for")
	exclusive(cmd, "schema", "check", "rules")
	p.formatFlag(cmd, "markdown")
	return cmd
}

// schema writes a JSON Schema.
func (p *program) schema(of string) error {
	if err := oneOf("schema", of, "layout", "repository"); err != nil {
		return err
	}
	text := workspace.Schema
	if of == "layout" {
		var err error
		if text, err = rules.Schema(); err != nil {
			return err
		}
		text = append(text, '\n')
	}
	_, err := p.out.Write(text)
	return err
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
func (p *program) checkLayout(ctx context.Context, folder string) error {
	full, err := filepath.Abs(folder)
	if err != nil {
		return err
	}
	if filepath.Base(full) == layout.FileName { // the file is as good as its folder
		full = filepath.Dir(full)
	}
	r, err := app.CheckLayout(ctx, full)
	if errors.Is(err, fs.ErrNotExist) {
		return callf("%s", workspace.NoLayout(full))
	}
	if err != nil {
		return err
	}
	if p.format == "json" {
		return output.LayoutCheckJSON(p.out, r)
	}
	output.LayoutChecked(p.out, r)
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
