package cli

import "github.com/spf13/cobra"

func (p *program) identify() *cobra.Command {
	return &cobra.Command{Use: "identify", Args: cobra.NoArgs, Run: func(*cobra.Command, []string) {}}
}
