package cli_test

import (
	"os"
	"os/exec"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// TestBroughtProjectsRun brings flat projects to a layout, or divides them as somebody says,
// and lets the languages say whether they still run; and what is taken back is as before.
func TestBroughtProjectsRun(t *testing.T) {
	py := python(t)
	for name, c := range map[string]struct {
		files map[string]string
		call  []string
		proof string
		there []string
	}{
		"one module of Flask": {map[string]string{
			"requirements.txt": "flask\n", ".flaskenv": "FLASK_APP=app.py\n",
			"app.py":               "from flask import Flask, render_template\n\napp = Flask(__name__)\n\n\n@app.route(\"/\")\ndef index():\n    return render_template(\"index.html\")\n",
			"templates/index.html": "<!doctype html>{{ 1 }}\n", "static/main.css": "body {}\n",
			"test_app.py": "from pathlib import Path\n\nfrom app import app\n\n\ndef test_pages():\n    client = app.test_client()\n    assert client.get(\"/\").status_code == 200\n    assert Path(app.static_folder, \"main.css\").exists()\n",
		}, []string{"--to", "flask/package"}, "PYTHON -m pytest -q -p no:cacheprovider && FLASK_APP=$(sed s/FLASK_APP=// .flaskenv) PYTHON -m flask routes", []string{"app/__init__.py", "app/templates/index.html", "app/static/main.css"}},
		"a flat program of Go": {map[string]string{
			"go.mod":         "module gannet.example/ferry\n\ngo 1.22\n",
			"main.go":        "package main\n\nimport \"fmt\"\n\nfunc main() { fmt.Println(tideTable(3), cardOf(berth{Name: \"North\"})) }\n",
			"tides.go":       "package main\n\n// tideTable lists hours.\nfunc tideTable(n int) []int { return make([]int, n) }\n",
			"tides_test.go":  "package main\n\nimport \"testing\"\n\nfunc TestTideTable(t *testing.T) {\n\tif len(tideTable(2)) != 2 {\n\t\tt.Fail()\n\t}\n}\n",
			"berths.go":      "package main\n\ntype berth struct {\n\tName  string\n\tTides []int\n}\n",
			"cards.go":       "package main\n\n// A card shows one berth.\ntype card struct {\n\tof    berth // which\n\tstays bool  // for now\n}\n\nfunc cardOf(b berth) string { return card{of: b}.of.Name }\n",
			"cards_test.go":  "package main\n\nimport \"testing\"\n\nfunc TestCard(t *testing.T) {\n\tif cardOf(berth{Name: \"x\", Tides: tideTable(1)}) != \"x\" {\n\t\tt.Fail()\n\t}\n}\n",
			"Makefile":       "build:\n\tgo build -o bin/ferry .\n",
			"docs/README.md": "See [the tides](../tides.go).\n",
		}, []string{"--map", "main.go=cmd/ferry/main.go", "--map", "tides.go=internal/tides/tides.go", "--map", "berths.go=internal/berths/berths.go", "--map", "cards.go=internal/cards/cards.go"},
			"go vet ./... && go test ./... && test -z \"$(gofmt -l .)\" && $(sed -n 's/^\\tgo build -o bin.ferry/go run/p' Makefile)", []string{"cmd/ferry/main.go", "internal/tides/tides_test.go", "internal/cards/cards_test.go"}},
	} {
		t.Run(name, func(t *testing.T) {
			root := treetest.Make(t, c.files)
			prove := func(when string) {
				cmd := exec.Command("sh", "-c", strings.ReplaceAll(c.proof, "PYTHON", py))
				cmd.Dir, cmd.Env = root, append(os.Environ(), "GOFLAGS=-mod=mod", "GOWORK=off", "PYTHONDONTWRITEBYTECODE=1")
				if out, err := cmd.CombinedOutput(); err != nil {
					t.Fatalf("%s: %v\n%s", when, err, out)
				}
			}
			prove("before")
			o := run(t, root, append([]string{"realign", "--write"}, c.call...)...)
			if o.status != 0 {
				t.Fatal(o.out, o.err)
			}
			for _, at := range c.there {
				if _, err := os.Stat(root + "/" + at); err != nil {
					t.Errorf("%v\n%s", err, o.out)
				}
			}
			prove("after")
			if o := run(t, root, "undo"); o.status != 0 {
				t.Fatal(o.err)
			}
			prove("taken back")
		})
	}
}
