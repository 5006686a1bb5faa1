package cli_test

import (
	"encoding/json"
	"encoding/xml"
	"path/filepath"
	"strings"
	"testing"

	"dicaxon/internal/treetest"
)

// TestFormatsOfCheck reads every format back with a reader of its own.
func TestFormatsOfCheck(t *testing.T) {
	dir := unpack(t)
	for format, reads := range map[string]func(text string) bool{
		"json": func(text string) bool { return json.Valid([]byte(text)) && strings.Contains(text, `"other"`) },
		"sarif": func(text string) bool {
			return json.Valid([]byte(text)) && strings.Contains(text, `"version": "2.1.0"`)
		},
		"junit": func(text string) bool {
			var suites struct {
				Failures int `xml:"failures,attr"`
			}
			return xml.Unmarshal([]byte(text), &suites) == nil && suites.Failures == 11
		},
		"markdown": func(text string) bool {
			return strings.HasPrefix(text, "**Layout:** 5 errors, 6 warnings, 2 notes\n") && strings.Contains(text, "</details>")
		},
		"html": func(text string) bool {
			return strings.HasPrefix(text, "<!doctype html>") && strings.Contains(text, "ferry/crews/views.py") && strings.HasSuffix(strings.TrimSpace(text), "</html>")
		},
	} {
		o := run(t, dir, "check", "ferry", "--format", format)
		if o.status != 1 || o.err != "" || !reads(o.out) {
			t.Errorf("%s: status %d, said %q\n%s", format, o.status, o.err, o.out)
		}
	}
	if o := run(t, dir, "check", "ferry", "--format", "yaml"); o.status != 2 || !strings.Contains(o.err, "sarif") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
}

// TestOnlyAndSkip narrows what is told, and names what was likely meant.
func TestOnlyAndSkip(t *testing.T) {
	dir := unpack(t)
	if got := found(t, dir, "ferry", "--only", "unwired,wall"); len(got) != 2 {
		t.Errorf("%q", got)
	}
	if got := found(t, dir, "ferry", "--skip", "missing,extra,misplaced,misnamed,unpaired,empty,disagrees,dangling,unwired"); len(got) != 1 || !strings.Contains(got[0], "tangled") {
		t.Errorf("%q", got)
	}
	for word, says := range map[string]string{"unwird": "did you mean unwired?", "wal": "did you mean wall?", "nonsense": "the kinds are missing, extra"} {
		if o := run(t, dir, "check", "ferry", "--only", word); o.status != 2 || !strings.Contains(o.err, says) {
			t.Errorf("%s: status %d, said %q", word, o.status, o.err)
		}
	}
}

func TestExplainKind(t *testing.T) {
	dir := t.TempDir()
	if o := run(t, dir, "check", "--explain", "tangled"); o.status != 0 || !strings.Contains(o.out, "An import goes across a wall") || !strings.Contains(o.out, "rules     circular, no-cycles, only-here, wall") {
		t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
	}
	if o := run(t, dir, "check", "--explain", "tangeld"); o.status != 2 || !strings.Contains(o.err, "did you mean tangled?") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
	o := run(t, dir, "layouts", "--rules", "--format", "json")
	var answer struct {
		Schema string
		Rules  []struct {
			Rule    string
			Options []struct{ Option string }
		}
	}
	if err := json.Unmarshal([]byte(o.out), &answer); err != nil || answer.Schema != "dicaxon.rules/1" || len(answer.Rules) < 20 {
		t.Errorf("%v\n%s", err, o.out)
	}
}

// TestAcceptAndSince starts on an old repository: only what is new is told.
func TestAcceptAndSince(t *testing.T) {
	dir := filepath.Join(unpack(t), "ferry")
	command(t, dir, "git", "init", "--quiet")
	command(t, dir, "git", "add", "--all")
	command(t, dir, "git", "-c", "user.name=Crew", "-c", "user.email=crew@gannet.example", "commit", "--quiet", "-m", "one")
	if o := run(t, dir, "check", "--since", "HEAD"); o.status != 1 || !strings.Contains(o.out, "empty") || !strings.Contains(o.out, "findings there before.") {
		// .env is ignored, so it is new to what was recorded.
		if o.status != 0 || !strings.Contains(o.out, "Not told:") {
			t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
		}
	}
	if o := run(t, dir, "check", "--accept"); o.status != 0 || !strings.Contains(o.out, "18 findings are accepted") {
		t.Fatalf("status %d\n%s%s", o.status, o.out, o.err)
	}
	if o := run(t, dir, "check"); o.status != 0 || !strings.Contains(o.out, "nothing new is out of place") {
		t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
	}
	treetest.Add(t, dir, map[string]string{"ferry/berths/more.html": "<p>"})
	if o := run(t, dir, "check"); o.status != 0 || strings.Count(o.out, "extra") != 2 || !strings.Contains(o.out, "ferry/berths/more.html") {
		t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
	}
	command(t, dir, "git", "add", "ferry/berths/more.html")
	if o := run(t, dir, "check", "--staged"); o.status != 0 || !strings.Contains(o.out, "ferry/berths/more.html") {
		t.Errorf("staged: status %d\n%s%s", o.status, o.out, o.err)
	}
	if o := run(t, dir, "check", "--at", "HEAD~4"); o.status != 2 || !strings.Contains(o.err, "goes back beyond the first commit") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
	if o := run(t, dir, "check", "--at", "HEAD", "--staged"); o.status != 2 || !strings.Contains(o.err, "--at and --staged do not go together") {
		t.Errorf("status %d, said %q", o.status, o.err)
	}
}

// TestSecretsAreNotShown says where a credential stands and never which it is.
func TestSecretsAreNotShown(t *testing.T) {
	dir := unpack(t)
	for _, format := range []string{"text", "json", "sarif", "junit", "markdown", "html"} {
		o := run(t, dir, "check", "tides", "--format", format)
		if strings.Contains(o.out+o.err, "l0w-water") || !strings.Contains(o.out, "password in an address") {
			t.Errorf("%s shows it, or says nothing:\n%s", format, o.out)
		}
	}
}

// TestDangling reads what people and programs are told of references that lead
// nowhere, and of forgetting.
func TestDangling(t *testing.T) {
	dir := treetest.Make(t, map[string]string{"package.json": `{"name": "ferry"}`, "a.js": "import { table } from './tides.js'\nimport './gone.js'\n", "b.js": "import './gone.js'\n", "tide.js": "export const table = 1\n"})
	o := run(t, dir, "check", "--only", "dangling", "--no-cache")
	if o.status != 1 || !strings.Contains(o.out, "a.js:1\n") || !strings.Contains(o.out, "it imports ./tides.js, which is not there; did it mean ./tide.js?") ||
		!strings.Contains(o.out, "it imports ./gone.js, which is not there (and 1 more like it: b.js)") {
		t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
	}
	o = run(t, dir, "check", "--only", "dangling", "--format", "json")
	for _, want := range []string{`"kind": "dangling"`, `"line": 2`, `"column": 9`, `"path": "gone.js"`, `"more": 1`} {
		if !strings.Contains(o.out, want) {
			t.Errorf("%s is not in\n%s", want, o.out)
		}
	}
	if o := run(t, dir, "check", "--explain", "dangling"); o.status != 0 || !strings.Contains(o.out, "not there") {
		t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
	}
	if o := run(t, dir, "check", "--skip", "dangling"); o.status != 0 || strings.Contains(o.out, "gone.js") {
		t.Errorf("status %d\n%s%s", o.status, o.out, o.err)
	}
}
