// Package demo holds small made-up repositories with the defects that real
// ones have, to try the program on.
package demo

import (
	"embed"
	"os"
	"path/filepath"
	"strings"

	"golang.org/x/tools/txtar"
)

//go:embed *.txtar
var archives embed.FS

// A Repository is one of the demo repositories.
type Repository struct {
	Name  string
	About string // one line
	files []txtar.File
}

// Repositories gives them in the order of their names.
func Repositories() ([]Repository, error) {
	entries, err := archives.ReadDir(".")
	if err != nil {
		return nil, err
	}
	var all []Repository
	for _, e := range entries {
		text, err := archives.ReadFile(e.Name())
		if err != nil {
			return nil, err
		}
		a := txtar.Parse(text)
		all = append(all, Repository{strings.TrimSuffix(e.Name(), ".txtar"), strings.TrimSpace(string(a.Comment)), a.Files})
	}
	return all, nil
}

// Unpack writes the repository into a new folder of its name in dir.
func (r *Repository) Unpack(dir string) error {
	root := filepath.Join(dir, r.Name)
	if err := os.Mkdir(root, 0o755); err != nil {
		return err
	}
	for _, f := range r.files {
		at := filepath.Join(root, filepath.FromSlash(f.Name))
		// A name that ends in a slash is a folder, which may be empty.
		if strings.HasSuffix(f.Name, "/") {
			if err := os.MkdirAll(at, 0o755); err != nil {
				return err
			}
			continue
		}
		if err := os.MkdirAll(filepath.Dir(at), 0o755); err != nil {
			return err
		}
		if err := os.WriteFile(at, f.Data, 0o644); err != nil {
			return err
		}
	}
	return nil
}
