package layout_test

import (
	"bytes"
	"context"
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/goccy/go-yaml"
	"github.com/santhosh-tekuri/jsonschema/v6"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/rules"
	"dicaxon/internal/treetest"
	"dicaxon/internal/workspace"
)

// schema compiles the schema of layouts that editors get, with every rule in it.
func schema(t *testing.T) *jsonschema.Schema {
	t.Helper()
	text, err := rules.Schema()
	if err != nil {
		t.Fatal(err)
	}
	return compiled(t, text)
}

func compiled(t *testing.T, text []byte) *jsonschema.Schema {
	t.Helper()
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(text))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("layout.json", doc); err != nil {
		t.Fatal(err)
	}
	s, err := c.Compile("layout.json")
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func fits(s *jsonschema.Schema, text string) error {
	var value any
	if err := yaml.Unmarshal([]byte(text), &value); err != nil {
		return err
	}
	plain, err := json.Marshal(value)
	if err != nil {
		return err
	}
	doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(plain))
	if err != nil {
		return err
	}
	return s.Validate(doc)
}

// TestDocumentedExamples reads every example of the language's page.
func TestDocumentedExamples(t *testing.T) {
	page, err := os.ReadFile("../../docs/layout-language.md")
	if err != nil {
		t.Fatal(err)
	}
	s := schema(t)
	examples := regexp.MustCompile("(?s)```yaml\n(.*?)```").FindAllStringSubmatch(string(page), -1)
	if len(examples) < 12 {
		t.Fatalf("only %d examples", len(examples))
	}
	told := strings.Builder{}
	for _, e := range examples {
		text := e[1]
		told.WriteString(text)
		if strings.Contains(text, "projects:") {
			root := treetest.Make(t, map[string]string{"tides/": "", workspace.FileName: text})
			if _, err := workspace.Open(context.Background(), root, workspace.Options{}); err != nil {
				t.Errorf("%v in\n%s", err, text)
			}
			if err := fits(compiled(t, workspace.Schema), text); err != nil {
				t.Errorf("the schema refuses it: %v\n%s", err, text)
			}
			continue
		}
		dir := treetest.Make(t, map[string]string{layout.FileName: text, "starters/views.py.tmpl": "x", "starters/start.sh.tmpl": "x"})
		if _, err := layout.Resolve(catalogue.Catalogue{Dir: dir}, "."); err != nil {
			t.Errorf("%v in\n%s", err, text)
		}
		if err := fits(s, text); err != nil {
			t.Errorf("the schema refuses it: %v\n%s", err, text)
		}
	}
	// Every key of the language is in an example.
	var keys struct {
		Properties map[string]any
		Defs       map[string]struct{ Properties map[string]any } `json:"$defs"`
	}
	if err := json.Unmarshal(layout.Schema, &keys); err != nil {
		t.Fatal(err)
	}
	all := []map[string]any{keys.Properties, keys.Defs["entry"].Properties, keys.Defs["ask"].Properties, keys.Defs["sign"].Properties, keys.Defs["not-here"].Properties}
	for _, group := range all {
		for key := range group {
			if !strings.Contains(told.String(), key+":") && !strings.Contains(string(page), "| `"+key+"` |") {
				t.Errorf("no example has the key %q", key)
			}
		}
	}
}

// TestSchemaKnowsRules: which there are, what each needs, and how it is written.
func TestSchemaKnowsRules(t *testing.T) {
	s := schema(t)
	for rule, good := range map[string]bool{
		"{rule: size, files: a, lines: 400}": true, "{rule: sise, files: a}": false, "{rule: size, lines: 400}": false,
		"{rule: size, files: a, lines: many}": false, "{rule: size, files: a, rows: 4}": false, "{rule: wired, files: a, by: b, imports: perhaps}": false,
		"{rule: size, name: s, level: note, says: S., when: {has: a}, files: [a, b]}": true,
	} {
		if err := fits(s, "dicaxon: 1\nlayout: team/x\ntitle: T\nrules:\n  - "+rule+"\n"); (err == nil) != good {
			t.Errorf("%s: %v", rule, err)
		}
	}
}

// TestSchemaAgrees holds the schema against the parser: what is built in fits,
// and what the parser refuses for its form the schema refuses too.
func TestSchemaAgrees(t *testing.T) {
	s := schema(t)
	files, err := filepath.Glob("../catalogue/layouts/*/*/" + layout.FileName)
	if err != nil || len(files) < 7 {
		t.Fatal(err, files)
	}
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		if err := fits(s, string(text)); err != nil {
			t.Errorf("%s: %v", file, err)
		}
	}
	for _, bad := range []string{
		"tre: {}", "tree: {a: {role: R., nede: must}}", "tree: {a: {role: R., need: always}}", "tree: {a: {role: [R]}}",
		"tree: {a: {role: ''}}", "tree: {a: must}", "tree: [a]", "tree: {/x: {role: R.}}", "tree: {../x: {role: R.}}", "tree: {a: {role: R., git: maybe}}",
		"tree: {a/: {role: R., others: must}}", "tree: {a: {role: R., at-least: x}}", "signs: {needs: a}", "signs: [{needs: a, has: b}]",
		"tree: {a: {need: must}}", "tree: {a/: {role: R., tree: {b: {need: must}}}}", "tree: {a: {role: R., when: {}}}", "shapes: [x]",
		"asks: {a: {question: Q}}", "base: perhaps", "starter-marks: [a]", "tree: {a/: {role: R., not-here: {what: B}}}",
	} {
		text := "dicaxon: 1\nlayout: team/x\ntitle: T\n" + bad + "\n"
		if fits(s, text) == nil {
			t.Errorf("the schema takes %s", bad)
		}
		dir := treetest.Make(t, map[string]string{layout.FileName: text})
		if _, err := layout.Resolve(catalogue.Catalogue{Dir: dir}, "."); err == nil {
			t.Errorf("the parser takes %s", bad)
		}
	}
}
