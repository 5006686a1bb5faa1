package cli_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/treetest"
)

// TestScripts holds every word that the program writes on a terminal. Each file in
// testdata/scripts is an archive: the lines before the first file are calls, one a
// line ("in DIR: check" is called from that folder); "answer/1" is what the first of
// them says, with a line for its exit status; the other files are the repository.
// UPDATE=1 writes the answers anew: read the difference before you commit it.
func TestScripts(t *testing.T) {
	files, err := filepath.Glob("testdata/scripts/*.txtar")
	if err != nil || len(files) < 8 {
		t.Fatalf("%d scripts, %v", len(files), err)
	}
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".txtar"), func(t *testing.T) { script(t, file) })
	}
}

func script(t *testing.T, file string) {
	a, err := txtar.ParseFile(file)
	if err != nil {
		t.Fatal(err)
	}
	want, repository := map[string]string{}, map[string]string{}
	var kept []txtar.File
	for _, f := range a.Files {
		if strings.HasPrefix(f.Name, "answer/") {
			want[f.Name] = string(f.Data)
			continue
		}
		kept = append(kept, f)
		repository[f.Name] = string(f.Data)
	}
	root := treetest.Make(t, repository)
	n := 0
	var answers []txtar.File
	for _, call := range strings.Split(string(a.Comment), "\n") {
		call, _, _ = strings.Cut(strings.TrimSpace(call), "#")
		if call == "" {
			continue
		}
		n++
		dir := root
		if in, rest, ok := strings.Cut(call, ": "); ok && strings.HasPrefix(in, "in ") {
			dir, call = filepath.Join(root, strings.TrimPrefix(in, "in ")), rest
		}
		o := run(t, dir, strings.Fields(call)...)
		got := strings.ReplaceAll(fmt.Sprintf("%s%sstatus %d\n", o.out, o.err, o.status), root, "ROOT")
		name := fmt.Sprintf("answer/%d", n)
		answers = append(answers, txtar.File{Name: name, Data: []byte(got)})
		if got != want[name] && os.Getenv("UPDATE") == "" {
			t.Errorf("%s\n--- got\n%s--- want\n%s", call, got, want[name])
		}
	}
	if os.Getenv("UPDATE") != "" {
		a.Files = append(answers, kept...)
		if err := os.WriteFile(file, txtar.Format(a), 0o644); err != nil {
			t.Fatal(err)
		}
	}
}
