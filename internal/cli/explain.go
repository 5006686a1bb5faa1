package cli

import "github.com/spf13/cobra"

func (p *program) explain() *cobra.Command {
	return &cobra.Command{Use: "explain", Args: cobra.NoArgs, Run: func(*cobra.Command, []string) {}}
}
