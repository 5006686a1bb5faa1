package output

import (
	"bytes"
	"strings"
	"testing"

	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
)

func page(width int) (*Page, *bytes.Buffer) {
	var b bytes.Buffer
	return &Page{Out: &b, Width: width}, &b
}

func TestFinding(t *testing.T) {
	f := finding.Finding{Kind: finding.Misnamed, Level: finding.Error, Path: "ferry/berths/view.py", Home: "ferry/berths/views.py",
		Message: "it should be called views.py, which is a sentence that needs two lines", Why: "Routes of this area."}
	p, out := page(72)
	p.finding(f, false)
	want := `error    misnamed     ferry/berths/view.py
                      → ferry/berths/views.py
                      it should be called views.py, which is a sentence
                      that needs two lines
`
	if out.String() != want {
		t.Errorf("got\n%s\nwant\n%s", out, want)
	}
	p, out = page(60)
	p.ASCII = true
	f.Home, f.Homes = "", []string{"a/x", "b/x"}
	p.finding(f, false)
	want = `error    misnamed
         ferry/berths/view.py
         -> a/x
         -> b/x
         it should be called views.py, which is a sentence
         that needs two lines
`
	if out.String() != want {
		t.Errorf("got\n%s\nwant\n%s", out, want)
	}
}

func TestDrawTree(t *testing.T) {
	p, out := page(60)
	p.DrawTree("./", "A title", []explain.Line{
		{Name: "app/", Role: "A role that is long enough to need a second line.", Below: []explain.Line{{Name: "a.py", Role: "R."}, {Name: "b/", Role: "S."}}},
		{Name: "x", Role: "T.", MadeBy: "a program", Git: "ignored"},
	})
	want := `./          A title
├─ app/     A role that is long enough to need a second
│           line.
│  ├─ a.py  R.
│  └─ b/    S.
└─ x        T. Made by a program. Not committed.
`
	if out.String() != want {
		t.Errorf("got\n%s\nwant\n%s", out, want)
	}
}

func TestBroken(t *testing.T) {
	for _, c := range []struct {
		text  string
		width int
		want  string
	}{
		{"one two three", 7, "one two|three"}, {"one", 1, "one"}, {"", 5, ""}, {"ünï tïde", 4, "ünï|tïde"}, {"界界 界", 4, "界界|界"},
	} {
		if got := strings.Join(broken(c.text, c.width), "|"); got != c.want {
			t.Errorf("%q in %d: %q, want %q", c.text, c.width, got, c.want)
		}
	}
}

func TestCounts(t *testing.T) {
	for n, want := range map[int]string{0: "0 files", 1: "1 file", 999: "999 files", 1000: "1,000 files", 1234567: "1,234,567 files"} {
		if got := count(n, "file"); got != want {
			t.Errorf("%d: %q", n, got)
		}
	}
}

func TestJSONKeepsMarks(t *testing.T) {
	var b bytes.Buffer
	if err := JSON(&b, map[string]string{"entry": "<project>/&"}); err != nil || !strings.Contains(b.String(), `"<project>/&"`) {
		t.Errorf("%s %v", b.String(), err)
	}
}
