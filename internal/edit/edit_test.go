package edit

import (
	"errors"
	"testing"
)

func TestApply(t *testing.T) {
	text := []byte("from ferry.berths import card\n")
	at := func(start, end int, with string) Edit { return Edit{Path: "a.py", Start: start, End: end, Text: with} }
	for name, c := range map[string]struct {
		edits []Edit
		want  string
		fails bool
	}{
		"none":          {nil, "from ferry.berths import card\n", false},
		"one":           {[]Edit{at(5, 17, "ferry.tides")}, "from ferry.tides import card\n", false},
		"out of order":  {[]Edit{at(25, 29, "page"), at(5, 10, "line")}, "from line.berths import page\n", false},
		"twice alike":   {[]Edit{at(5, 10, "line"), at(5, 10, "line")}, "from line.berths import card\n", false},
		"an insertion":  {[]Edit{at(30, 30, "x = 1\n")}, "from ferry.berths import card\nx = 1\n", false},
		"at one place":  {[]Edit{at(0, 0, "a\n"), at(0, 4, "FROM")}, "a\nFROM ferry.berths import card\n", false},
		"overlapping":   {[]Edit{at(5, 17, "x"), at(10, 20, "y")}, "", true},
		"beyond":        {[]Edit{at(5, 99, "x")}, "", true},
		"turned around": {[]Edit{at(9, 5, "x")}, "", true},
	} {
		got, err := Apply(text, c.edits)
		if string(got) != c.want || (err != nil) != c.fails {
			t.Errorf("%s: %q %v", name, got, err)
		}
	}
	if _, err := Apply(text, []Edit{at(5, 17, "x"), at(5, 17, "y")}); !errors.Is(err, ErrOverlap) {
		t.Error(err)
	}
}
