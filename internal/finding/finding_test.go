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
