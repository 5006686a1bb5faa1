package cli

import "github.com/spf13/cobra"

func (p *program) layouts() *cobra.Command {
	return &cobra.Command{Use: "layouts", Args: cobra.NoArgs, Run: func(*cobra.Command, []string) {}}
}
