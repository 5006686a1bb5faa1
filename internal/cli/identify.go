package cli

import (
	"github.com/spf13/cobra"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/identify"
	"dicaxon/internal/report"
	"dicaxon/internal/tree"
)

func (p *program) identify() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "identify [PATH]",
		Short: "Say which layouts the projects in a repository follow, and why",
		Long: `Identify looks for the projects in the repository at PATH (here, if left out): by the
dependencies and files that point to a framework, then by how well the tree of each variant fits.

It names what came next as well, and says "none I know" rather than guess.`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			id, err := identify.New(catalogue.Catalogue{})
			if err != nil {
				return err
			}
			show, done := p.progress()
			r, err := tree.Read(pathArg(args), tree.Options{Progress: show, Watch: id.Watch})
			done()
			if err != nil {
				return err
			}
			found, err := id.Projects(r)
			if err != nil {
				return err
			}
			p.troubles(r.Troubles)
			if p.format == "json" {
				return report.JSON(p.out, map[string]any{"schema": "dicaxon.projects/1", "root": tree.Printable(r.Root), "projects": found})
			}
			page.Identify(found)
			return nil
		},
	}
	p.formatFlag(cmd)
	return cmd
}
