package finding

import (
	"encoding/json"
	"testing"
)

func TestLevels(t *testing.T) {
	for _, word := range []string{"error", "warning", "note"} {
		l, err := ParseLevel(word)
		if err != nil || l.String() != word {
			t.Error(word, l, err)
		}
		if text, err := json.Marshal(l); err != nil || string(text) != `"`+word+`"` {
			t.Error(string(text), err)
		}
	}
	if _, err := ParseLevel("fatal"); err == nil {
		t.Error("fatal is no level")
	}
}

func TestTotals(t *testing.T) {
	var none, some Totals
	some.Add(Warning)
	for level, want := range map[Level]bool{Error: false, Warning: true, Note: true} {
		if some.AtLeast(level) != want || none.AtLeast(level) {
			t.Error(level)
		}
	}
}

func TestSort(t *testing.T) {
	all := []Finding{{Kind: Missing, Path: "b"}, {Kind: Missing, Path: "a"}, {Kind: Extra, Path: "a"}}
	Sort(all)
	if all[0].Kind != Extra || all[1].Path != "a" || all[2].Path != "b" {
		t.Errorf("%v", all)
	}
}

// TestJoin shows what is told once: the cause, not what carrying it out would end.
func TestJoin(t *testing.T) {
	tree := []Finding{{Kind: Misnamed, Path: "modell/", Home: "model/"}, {Kind: Misplaced, Path: "tide.go", Home: "model/tide.go"}, {Kind: Missing, Path: "app.js"}, {Kind: Extra, Path: "key.yml"}}
	for _, c := range []struct {
		rule Finding
		told bool
	}{
		{Finding{Kind: Misdeclared, Path: "modell/tide.go", Line: 1}, true},
		{Finding{Kind: Misdeclared, Path: "tide.go", Line: 1}, false},
		{Finding{Kind: Disagrees, Path: "package.json", Other: &Place{Path: "app.js"}}, false},
		{Finding{Kind: Disagrees, Path: "package.json", Other: &Place{Path: "app.jsx"}}, true},
		{Finding{Kind: Disagrees, Path: "s.yml", Other: &Place{Path: "model/a.sql"}}, false},
		{Finding{Kind: Disagrees, Path: "s.yml", Other: &Place{Path: "modell/a.sql"}}, true},
		{Finding{Kind: Disagrees, Path: "s.yml", Other: &Place{Path: "key.yml"}}, true},
		{Finding{Kind: Exposed, Path: "key.yml", Line: 3}, true},
		{Finding{Kind: Tangled, Path: "modell/tide.go", Line: 4}, true},
		{Finding{Kind: Tangled, Path: "tide.go", Line: 4}, false},
	} {
		c.rule.Rule = "r"
		if got := len(Join(append(tree[:4:4], c.rule))) > 4; got != c.told {
			t.Errorf("%+v is told: %v", c.rule, got)
		}
	}
	// What a rule knows of an unknown file says more than that it is unknown.
	if got := Join(append(tree[3:4:4], Finding{Kind: Exposed, Path: "key.yml", Rule: "ignored"})); len(got) != 1 || got[0].Kind != Exposed {
		t.Errorf("%+v", got)
	}
}

// TestNew knows findings again when lines move or a folder is renamed.
func TestNew(t *testing.T) {
	known := []Finding{
		{Kind: Tangled, Path: "a/x.py", Line: 3, Message: "line 3"}, {Kind: Misplaced, Path: "berths/card.html", Message: "m"},
		{Kind: Extra, Path: "old/", Message: "e"}, {Kind: Missing, Path: "a/__init__.py"}, {Kind: Missing, Path: "b/__init__.py"},
	}
	now := []Finding{
		{Kind: Tangled, Path: "a/x.py", Line: 9, Message: "line 9"}, {Kind: Misplaced, Path: "piers/card.html", Message: "m"},
		{Kind: Missing, Path: "c/__init__.py"}, {Kind: Tangled, Path: "a/y.py", Message: "line 1"},
	}
	fresh, again, gone := New(now, known)
	if len(fresh) != 2 || fresh[0].Path != "c/__init__.py" || fresh[1].Path != "a/y.py" || len(again) != 2 || gone != 3 {
		t.Errorf("new %+v, again %+v, %d gone", fresh, again, gone)
	}
}
