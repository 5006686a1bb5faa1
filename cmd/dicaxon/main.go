// Command dicaxon compares, explains and starts repositories by the layout of
// their framework.
package main

import (
	"os"
	"runtime/debug"

	"dicaxon/internal/cli"
)

func main() {
	// What a run allocates it mostly keeps until its end, so collecting often
	// only costs time.
	debug.SetGCPercent(400)
	os.Exit(cli.Run(os.Args[1:], os.Stdin, os.Stdout, os.Stderr))
}
