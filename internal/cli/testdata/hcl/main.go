// Parses the files given as HCL.
package main

import (
	"log"
	"os"

	"github.com/hashicorp/hcl/v2/hclparse"
)

func main() {
	parser := hclparse.NewParser()
	for _, name := range os.Args[1:] {
		if _, diagnostics := parser.ParseHCLFile(name); diagnostics.HasErrors() {
			log.Fatal(diagnostics)
		}
	}
}
