package cli

import "github.com/spf13/cobra"

func (p *program) scaffold() *cobra.Command {
	return &cobra.Command{Use: "scaffold", Args: cobra.NoArgs, Run: func(*cobra.Command, []string) {}}
}
