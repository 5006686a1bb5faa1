package output

import (
	"bytes"
	"encoding/xml"
	"io"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"
	"golang.org/x/net/html"

	"dicaxon/internal/app"
	"dicaxon/internal/baseline"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/workspace"
)

// awkward is a report with names that no format may take for its own.
func awkward() *app.Report {
	return &app.Report{Totals: finding.Totals{Error: 2, Note: 1}, Settlement: baseline.Settlement{Waived: 1}, Workspace: &workspace.Workspace{Root: "/gannet", Projects: []*workspace.Project{{
		At: ".", Layout: &layout.Layout{Name: "flask/areas", Title: "T <b>"}, Placement: &placement.Placement{Files: 3, Folders: 2},
		Findings: []finding.Finding{
			{Kind: finding.Misplaced, Path: "a b/<i>|`.html", Home: "c/<i>|`.html", Message: "belongs in c/", Why: "Pages & more.", Entry: "c/*.html"},
			{Kind: finding.Tangled, Path: "x.py", Line: 3, Column: 5, Other: &finding.Place{Path: "y.py", Line: 1}, Message: "it imports <y>", Rule: "wall"},
			{Kind: finding.Leftover, Level: finding.Note, Path: "", Message: "</script><script>alert(1)</script>"},
		},
	}}}}
}

// TestSARIF holds the answer against the schema that OASIS publishes.
func TestSARIF(t *testing.T) {
	schema, err := jsonschema.NewCompiler().Compile("testdata/sarif-schema-2.1.0.json")
	if err != nil {
		t.Fatal(err)
	}
	var b bytes.Buffer
	for _, r := range []*app.Report{{Workspace: &workspace.Workspace{Root: "/gannet"}}, awkward()} {
		b.Reset()
		if err := SARIF(&b, r, "1"); err != nil {
			t.Fatal(err)
		}
		if bytes.Contains(b.Bytes(), []byte(`"Text"`)) {
			t.Error("a text is under a wrong key")
		}
		doc, err := jsonschema.UnmarshalJSON(bytes.NewReader(b.Bytes()))
		if err != nil {
			t.Fatal(err)
		}
		if err := schema.Validate(doc); err != nil {
			t.Error(err)
		}
	}
	for _, want := range []string{`"uri": "a%20b/%3Ci%3E%7C%60.html"`, `"startLine": 3`, `"to": "c/<i>|` + "`" + `.html"`, `"dicaxon/1":`, `"ruleId": "tangled"`} {
		if !strings.Contains(b.String(), want) {
			t.Errorf("%s is not in it", want)
		}
	}
	a, c := awkward().Projects[0].Findings[1], awkward().Projects[0].Findings[1]
	c.Line = 30
	if sarifOf(a).Fingerprints["dicaxon/1"] != sarifOf(c).Fingerprints["dicaxon/1"] {
		t.Error("the fingerprint hangs on the line")
	}
}

func TestJUnit(t *testing.T) {
	var b bytes.Buffer
	if err := JUnit(&b, awkward()); err != nil {
		t.Fatal(err)
	}
	var back junitSuites
	if err := xml.Unmarshal(b.Bytes(), &back); err != nil {
		t.Fatalf("%v\n%s", err, b.String())
	}
	cases := back.Suites[0].Cases
	if back.Tests != 3 || back.Failures != 2 || cases[0].Name != "a b/<i>|`.html" || cases[2].Failure != nil || !strings.Contains(cases[1].Failure.Text, "see y.py:1") {
		t.Errorf("%+v", back)
	}
}

func TestMarkdown(t *testing.T) {
	var b bytes.Buffer
	CheckMarkdown(&b, awkward())
	for _, want := range []string{"**Layout:** 2 errors, 1 note", "Not told: 1 waived.", "- **tangled** `x.py:3`: it imports &lt;y>", "| error | misplaced | `` a b/<i>\\|`.html ``", "<details><summary>All 3 findings</summary>"} {
		if !strings.Contains(b.String(), want) {
			t.Errorf("%q is not in\n%s", want, b.String())
		}
	}
	for _, line := range strings.Split(b.String(), "\n") {
		if strings.HasPrefix(line, "| ") && strings.Count(strings.ReplaceAll(line, `\|`, ""), "|") != 5 {
			t.Errorf("no row of four cells: %s", line)
		}
	}
}

// TestHTML lets a real parser read the page: nothing of a name becomes markup,
// nothing is fetched, and every field has a label.
func TestHTML(t *testing.T) {
	var b bytes.Buffer
	tree := []explain.Line{{Name: "a b/", Role: "R.", Below: []explain.Line{{Name: "<i>.html", Role: "</span>", Finding: true}}}}
	if err := HTML(&b, awkward(), [][]explain.Line{tree}); err != nil {
		t.Fatal(err)
	}
	z := html.NewTokenizer(&b)
	scripts, inputs, labels := 0, 0, 0
	for {
		kind := z.Next()
		if kind == html.ErrorToken {
			if z.Err() != io.EOF {
				t.Error(z.Err())
			}
			break
		}
		token := z.Token()
		if kind != html.StartTagToken {
			continue
		}
		switch token.Data {
		case "script":
			scripts++
		case "input":
			inputs++
		case "label":
			labels++
		case "i", "y", "b":
			t.Errorf("a name became markup: %v", token)
		}
		for _, a := range token.Attr {
			if (a.Key == "src" || a.Key == "href") && !strings.HasPrefix(a.Val, "#") {
				t.Errorf("it fetches %v", a)
			}
		}
	}
	if scripts != 1 || inputs != 6 || labels != inputs {
		t.Errorf("%d scripts, %d inputs, %d labels", scripts, inputs, labels)
	}
}

// TestLeftOut says in words what was found and is not told.
func TestLeftOut(t *testing.T) {
	for _, c := range []struct {
		s    baseline.Settlement
		want string
	}{
		{baseline.Settlement{}, ""},
		{baseline.Settlement{Waived: 1}, "Not told: 1 waived."},
		{baseline.Settlement{Known: 1, Accepted: 1200, Waived: 3}, "Not told: 1 finding there before, 1,200 accepted, 3 waived."},
		{baseline.Settlement{Accepted: 2, Gone: 1}, "Not told: 2 accepted. Of those accepted, 1 is gone; dicaxon check --accept forgets them."},
		{baseline.Settlement{Gone: 4}, "Of those accepted, 4 are gone; dicaxon check --accept forgets them."},
	} {
		if got := leftOut(&app.Report{Settlement: c.s}); got != c.want {
			t.Errorf("got %q, want %q", got, c.want)
		}
	}
}

// TestRulesAreTold holds the page, the list and the meanings to all that there
// is.
func TestRulesAreTold(t *testing.T) {
	var page, list bytes.Buffer
	RulesMarkdown(&page)
	(&Page{Out: &list, Width: 80}).Rules()
	for _, r := range RuleLines() {
		if !strings.Contains(page.String(), "\n## "+r.Rule+"\n") || !strings.Contains(list.String(), r.Rule) {
			t.Errorf("%s is not told", r.Rule)
		}
		if !strings.Contains(r.Example, "rule: "+r.Rule) {
			t.Errorf("the example of %s is of another rule", r.Rule)
		}
	}
	for i := range finding.Kinds {
		var out bytes.Buffer
		(&Page{Out: &out, Width: 80}).Meaning(&finding.Kinds[i])
		if lines := strings.Split(out.String(), "\n"); len(lines) < 4 || !strings.HasPrefix(lines[0], string(finding.Kinds[i].Kind)) {
			t.Errorf("%s", out.String())
		}
		if finding.Meant(string(finding.Kinds[i].Kind)) != &finding.Kinds[i] {
			t.Errorf("%s is not found", finding.Kinds[i].Kind)
		}
	}
}
