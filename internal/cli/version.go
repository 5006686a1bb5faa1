package cli

import (
	"fmt"
	"runtime"
	"runtime/debug"

	"github.com/spf13/cobra"

	"dicaxon/internal/layout"
	"dicaxon/internal/output"
)

// Version is set when a release is built.
var Version = "development"

// versionLine says which version this is, as the command and the option do.
func versionLine() string {
	return fmt.Sprintf("dicaxon %s, layout language %s, built with %s\n", Version, layout.Version, runtime.Version())
}

func (p *program) version() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "version",
		Short: "Say which version this is",
		Args:  cobra.NoArgs,
		RunE: func(*cobra.Command, []string) error {
			commit := ""
			if info, ok := debug.ReadBuildInfo(); ok {
				for _, s := range info.Settings {
					if s.Key == "vcs.revision" {
						commit = s.Value
					}
				}
			}
			if p.format == "json" {
				return output.JSON(p.out, map[string]string{"schema": "dicaxon.version/1", "version": Version, "commit": commit, "language": layout.Version, "go": runtime.Version()})
			}
			fmt.Fprint(p.out, versionLine())
			return nil
		},
	}
	p.formatFlag(cmd)
	return cmd
}
