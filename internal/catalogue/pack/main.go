// Command pack writes the packed form of the built-in layouts and their index.
// Run it with "go generate ./internal/catalogue" after changing a layout.
package main

import (
	"log"
	"os"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/rules"
)

func main() {
	files, err := Files()
	if err != nil {
		log.Fatal(err)
	}
	if err := os.RemoveAll("packed"); err != nil {
		log.Fatal(err)
	}
	if err := os.Mkdir("packed", 0o755); err != nil {
		log.Fatal(err)
	}
	for name, text := range files {
		if err := os.WriteFile(name, text, 0o644); err != nil {
			log.Fatal(err)
		}
	}
}

// Files gives the files of the packed catalogue by their names.
func Files() (map[string][]byte, error) {
	c := catalogue.Catalogue{}
	files := map[string][]byte{}
	common, err := layout.Resolve(c, catalogue.CommonplaceName)
	if err != nil {
		return nil, err
	}
	index := catalogue.Index{}
	for _, name := range append(c.Names(), catalogue.CommonplaceName, catalogue.UsualName) {
		l, err := layout.Resolve(c, name)
		if err != nil {
			return nil, err
		}
		if _, err := rules.Compile(l, common); err != nil {
			return nil, err
		}
		if files[catalogue.PackedName(name)], err = layout.Pack(l); err != nil {
			return nil, err
		}
		if name != catalogue.CommonplaceName && name != catalogue.UsualName {
			index.Layouts = append(index.Layouts, catalogue.Summarise(l))
		}
	}
	if index.Frameworks, err = catalogue.ReadFrameworks(); err != nil {
		return nil, err
	}
	files[catalogue.IndexName], err = indexFile(index)
	return files, err
}
