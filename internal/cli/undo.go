package cli

import (
	"errors"
	"fmt"

	"github.com/spf13/cobra"

	"dicaxon/internal/changes"
	"dicaxon/internal/output"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

func (p *program) undo() *cobra.Command {
	var list, keep bool
	cmd := &cobra.Command{
		Use:   "undo [PATH]",
		Short: "Take back the last command that wrote, to the byte",
		Long: `Undo takes back what the last realign, add, place --move or scaffold wrote in the repository
at PATH, and the next time what the one before it wrote: texts, modes, times, and what git had
staged. It needs no commit and no git.

Where a file was edited since, it changes nothing and names the file; with --keep-edits such a
file keeps its text and goes back to where it was.

What it needs lies in the folder that XDG_STATE_HOME names, or ~/.local/state: the last 30
commands of 90 days.`,
		Example: `  dicaxon undo
  dicaxon undo --list
  dicaxon undo --keep-edits`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			root := workspace.Root(pathArg(args), "")
			if list {
				all, err := changes.Records(root)
				if err != nil {
					return err
				}
				if p.format == "json" {
					return output.RecordsJSON(p.out, root, all)
				}
				page.Records(root, all)
				return nil
			}
			var r *changes.Record
			err = p.write(func() error {
				r, err = changes.Undo(cmd.Context(), root, keep)
				return err
			})
			edited := new(changes.EditedError)
			switch {
			case errors.As(err, &edited):
				return callf("%v; --keep-edits keeps what you wrote", err)
			case errors.Is(err, changes.ErrNothing):
				return callf("%v", err)
			case err != nil:
				return err
			}
			if p.format == "json" {
				return output.RecordsJSON(p.out, root, []*changes.Record{r})
			}
			fmt.Fprintf(p.out, "Taken back: %s (%s).\n", tree.Printable(r.Command), tree.Printable(r.Summary))
			return nil
		},
	}
	cmd.Flags().BoolVar(&list, "list", false, "list what can be taken back, the last first")
	cmd.Flags().BoolVar(&keep, "keep-edits", false, "keep the text of files that were edited since")
	p.formatFlag(cmd)
	return cmd
}
