package finding

import (
	"fmt"
	"slices"
	"testing"
)

// TestFold puts together what says the same of one folder, and nothing else.
func TestFold(t *testing.T) {
	extra := func(path string) Finding {
		return Finding{Kind: Extra, Level: Note, Path: path, Message: "nothing like it is known"}
	}
	var all []Finding
	for _, name := range []string{"a", "b", "c", "d"} {
		all = append(all, extra("src/"+name))
	}
	for name, more := range map[string][]Finding{
		"three are told one by one":             {extra("docs/a"), extra("docs/b"), extra("docs/c")},
		"another level":                         {{Kind: Extra, Level: Warning, Path: "src/e", Message: "nothing like it is known"}},
		"another message":                       {{Kind: Extra, Level: Note, Path: "src/e", Message: "it has another spelling"}},
		"another entry":                         {{Kind: Extra, Level: Note, Path: "src/e", Message: "nothing like it is known", Entry: "src/"}},
		"what a rule says stands by itself":     {{Kind: Extra, Level: Note, Path: "src/e", Message: "nothing like it is known", Rule: "r"}},
		"what has a line stands by itself":      {{Kind: Extra, Level: Note, Path: "src/e", Message: "nothing like it is known", Line: 3}},
		"what is missing is told one by one":    {{Kind: Missing, Path: "src/e"}, {Kind: Missing, Path: "src/f"}, {Kind: Missing, Path: "src/g"}, {Kind: Missing, Path: "src/h"}},
		"a home of its own is told one by one":  {{Kind: Misplaced, Path: "x/e", Home: "y/e"}, {Kind: Misplaced, Path: "x/f", Home: "y/f"}, {Kind: Misplaced, Path: "x/g", Home: "y/g"}, {Kind: Misplaced, Path: "x/h", Home: "y/h"}},
		"what is within a folder is elsewhere":  {extra("src/a/x"), extra("src/a/y")},
		"a folder lies where its slash ends it": {extra("other/")},
	} {
		got := Fold(append(slices.Clone(all), more...))
		if len(got) != 1+len(more) {
			t.Errorf("%s: %d findings, not %d", name, len(got), 1+len(more))
			continue
		}
		if f := got[0]; f.Path != "src/a" || f.More != 3 || fmt.Sprint(f.Also) != "[src/b src/c src/d]" {
			t.Errorf("%s: %+v", name, f)
		}
	}
}
