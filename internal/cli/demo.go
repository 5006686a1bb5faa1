package cli

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"dicaxon/demo"
	"dicaxon/internal/output"
)

// tour lists the commands that the demo runs, in the folder it unpacked into.
var tour = [][]string{
	{"identify", "ferry"},
	{"check", "ferry"},
	{"explain", "ferry/ferry/berths", "ferry/ferry/berths/card.html"},
	{"check", "tides"},
	{"check", "warehouse"},
	{"explain", "--root", "tides", "--depth", "2"},
	{"realign", "ferry"},
	{"realign", "ferry", "--write"},
	{"check", "ferry"},
	{"undo", "ferry"},
	{"place", "--root", "ferry", "berths/card.html"},
	{"scaffold", "flask/areas", "crews-app", "--yes", "--answer", "area=crews,tides"},
	{"add", "area", "manifests", "--root", "crews-app"},
	{"check", "crews-app"},
}

func (p *program) demo() *cobra.Command {
	cmd := &cobra.Command{
		Use:   "demo [DIR]",
		Short: "Unpack the demo repositories and run the main commands on them",
		Long: `Demo unpacks three repositories of a made-up ferry operator, each with the defects that real
ones have, into DIR (a temporary folder, if left out), and runs the main commands on them.
The repositories stay there to be tried on.`,
		Args: cobra.MaximumNArgs(1),
		RunE: func(_ *cobra.Command, args []string) error {
			dir, err := demoFolder(args)
			if err != nil {
				return err
			}
			all, err := demo.Repositories()
			if err != nil {
				return err
			}
			for i := range all {
				if err := all[i].Unpack(dir); err != nil {
					return err
				}
			}
			if p.format == "json" {
				names := []string{}
				for _, r := range all {
					names = append(names, r.Name)
				}
				return output.JSON(p.out, map[string]any{"schema": "dicaxon.demo/1", "at": dir, "repositories": names})
			}
			fmt.Fprintf(p.out, "Unpacked into %s:\n\n", dir)
			for _, r := range all {
				fmt.Fprintf(p.out, "  %-10s %s\n", r.Name, r.About)
			}
			return p.runTour(dir)
		},
	}
	p.formatFlag(cmd)
	return cmd
}

// demoFolder gives the folder to unpack into, which must be new or empty.
func demoFolder(args []string) (string, error) {
	if len(args) == 0 {
		return os.MkdirTemp("", "dicaxon-demo-*")
	}
	dir, err := filepath.Abs(args[0])
	if err != nil {
		return "", err
	}
	if err := fits(dir, false); err != nil {
		return "", err
	}
	return dir, os.MkdirAll(dir, 0o755)
}

// runTour shows each command and runs it. Findings are what the demo is about,
// so they do not make it fail.
func (p *program) runTour(dir string) error {
	if err := os.Chdir(dir); err != nil {
		return err
	}
	for _, args := range tour {
		fmt.Fprintf(p.out, "\n%s\n\n", strings.TrimSpace("$ dicaxon "+strings.Join(args, " ")))
		step := *p
		step.status, step.format = statusFine, "text"
		root := step.root()
		root.SetArgs(args)
		if err := root.Execute(); err != nil {
			return err
		}
	}
	fmt.Fprintf(p.out, "\nThe repositories stay in %s.\n", dir)
	return nil
}
