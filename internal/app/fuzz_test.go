package app_test

import (
	"fmt"
	"io"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"slices"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/app"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/output"
	"dicaxon/internal/rules"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// FuzzRepository checks repositories that are made of anything, as far as every format:
// living examples, changed at random.
func FuzzRepository(f *testing.F) {
	examples, err := filepath.Glob("../catalogue/layouts/*/*/examples/*.txtar")
	if err != nil || len(examples) == 0 {
		f.Fatal("no examples: ", err)
	}
	for _, at := range examples {
		text, err := os.ReadFile(at)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(text)
	}
	f.Fuzz(func(t *testing.T, data []byte) {
		if len(data) > 64<<10 {
			return
		}
		texts := map[string][]byte{}
		var files []tree.Recorded
		for _, file := range txtar.Parse(data).Files {
			at := path.Clean(file.Name)
			if _, twice := texts[at]; twice || !fs.ValidPath(at) || at == "." || slices.ContainsFunc(files, func(r tree.Recorded) bool { return within(r.Path, at) || within(at, r.Path) }) {
				continue
			}
			texts[at] = file.Data
			files = append(files, tree.Recorded{Path: at, Kind: tree.File})
		}
		w, err := workspace.Open(t.Context(), "/nowhere", workspace.Options{Made: func(watch func(string) bool) *tree.Repository {
			return tree.FromRecord("/nowhere", files, watch, func(at string) ([]byte, error) {
				if text, ok := texts[at]; ok {
					return text, nil
				}
				return nil, fs.ErrNotExist
			})
		}})
		if err != nil {
			return // such as a mistake in dicaxon.yaml
		}
		r := &app.Report{Workspace: w}
		var trees [][]explain.Line
		for _, p := range w.Projects {
			if err := app.Find(t.Context(), w, p, rules.Facts{}, nil); err != nil {
				t.Fatal(err)
			}
			p.Findings = finding.Fold(finding.Join(p.Findings))
			for i := range p.Findings {
				if at := p.Findings[i].Path; at != "" && !fs.ValidPath(path.Clean(at)) {
					t.Errorf("a finding about %q", at)
				}
			}
			trees = append(trees, explain.Tree(w, p, 0))
		}
		for at := range texts {
			explain.Path(w, at)
		}
		out := output.NewPrinter(io.Discard)
		for _, err := range []error{output.CheckJSON(out, r), output.SARIF(out, r, "x"), output.JUnit(out, r), output.HTML(out, r, trees)} {
			if err != nil {
				t.Error(err)
			}
		}
		output.CheckMarkdown(out, r)
		output.CheckLines(out, r)
		(&output.Page{Out: out, Width: 60}).Check(r, 0, true)
	})
}

// within says whether a path lies below another.
func within(above, below string) bool {
	rel, err := filepath.Rel(above, below)
	return err == nil && fs.ValidPath(rel) && rel != "." && fmt.Sprint(rel[:min(2, len(rel))]) != ".."
}
