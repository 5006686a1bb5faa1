package cli

import (
	"github.com/spf13/cobra"

	"dicaxon/internal/app"
	"dicaxon/internal/output"
)

func (p *program) identify() *cobra.Command {
	write := false
	cmd := &cobra.Command{
		Use:   "identify [PATH]",
		Short: "Say which layouts the projects in a repository follow, and why",
		Long: `Identify looks for the projects in the repository at PATH (here, if left out): by the
dependencies and files that point to a framework, then by how well the tree of each variant fits.

It names what came next as well, and says "none I know" rather than guess. --write records what it
found in dicaxon.yaml, so that no later change makes a project another one.`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			show, done := p.progress()
			found, err := app.Identify(cmd.Context(), pathArg(args), show)
			done()
			if err != nil {
				return err
			}
			p.troubles(found.Troubles)
			if write {
				return p.write(func() error {
					at, n, err := found.Record(cmd.Context())
					if err == nil {
						page.Recorded(at, n)
					}
					return err
				})
			}
			if p.format == "json" {
				return output.IdentifyJSON(p.out, found)
			}
			page.Identify(found.Roots)
			return nil
		},
	}
	cmd.Flags().BoolVar(&write, "write", false, "record what was found in dicaxon.yaml")
	p.formatFlag(cmd)
	return cmd
}
