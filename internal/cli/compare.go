package cli

import (
	"context"
	"os"
	"path/filepath"

	"github.com/spf13/cobra"

	"dicaxon/internal/app"
	"dicaxon/internal/catalogue"
	"dicaxon/internal/compare"
	"dicaxon/internal/layout"
	"dicaxon/internal/output"
	"dicaxon/internal/tree"
)

func (p *program) compare() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "compare A B",
		Short: "Set two layouts, or a repository and a layout, side by side",
		Long: `Compare says of two layouts what one has and the other has not, what stands in another place
or under another name, and whom each suits. Of a repository and a layout it says how far the one
is from the other, and what would move.

A layout is written family/variant, or as the path of its folder; a repository as its path.`,
		Example: `  dicaxon compare flask/package flask/areas
  dicaxon compare . flask/areas
  dicaxon compare javascript/beside javascript/apart --format markdown`,
		Args:              cobra.ExactArgs(2),
		ValidArgsFunction: completeLayouts,
		RunE: func(_ *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			a, b := args[0], args[1]
			if isRepository(b) && !isRepository(a) {
				a, b = b, a
			}
			other, err := open(b)
			if err != nil {
				return err
			}
			if isRepository(a) {
				return p.compareRepository(page, a, b)
			}
			one, err := open(a)
			if err != nil {
				return err
			}
			return p.compareLayouts(page, one, other)
		},
	}
	p.formatFlag(cmd, "markdown")
	return cmd
}

// isRepository tells the path of a repository from that of a layout's folder
// and from a layout's name.
func isRepository(name string) bool {
	if _, err := os.Stat(filepath.Join(name, layout.FileName)); err == nil || !tree.IsDir(name) {
		return false
	}
	_, _, err := catalogue.Catalogue{}.Open(name)
	return catalogue.IsPath(name) || err != nil
}

func (p *program) compareLayouts(page *output.Page, a, b *layout.Layout) error {
	c := compare.Two(a, b)
	switch p.format {
	case "json":
		return output.CompareJSON(p.out, c)
	case "markdown":
		output.CompareMarkdown(p.out, &c)
	default:
		page.Compare(&c)
	}
	return nil
}

func (p *program) compareRepository(page *output.Page, at, name string) error {
	r, err := p.run(context.Background(), at, app.Options{Layout: name})
	if err != nil {
		return err
	}
	p.troubles(r.Troubles)
	d := compare.Repository(r)
	switch p.format {
	case "json":
		return output.DistanceJSON(p.out, at, d, r.Troubles)
	case "markdown":
		output.DistanceMarkdown(p.out, at, &d)
	default:
		page.Distance(at, &d)
	}
	return nil
}
