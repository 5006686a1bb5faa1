package cli

import "github.com/spf13/cobra"

func (p *program) version() *cobra.Command {
	return &cobra.Command{Use: "version", Args: cobra.NoArgs, Run: func(*cobra.Command, []string) {}}
}
