package names

import (
	"strings"
	"testing"
	"unicode"
)

// someNames are names of some kinds, which slips are made of.
var someNames = []string{"tides", "TideTable", "tide_table.py", "berth-card.test.tsx", "crews", "__init__.py", ".gitignore", "_layout.tsx", "person", "children", "indices", "sailings.html", "quay2shore", "états", "ab", "src", "Dockerfile", "mouse"}

// TestMayBeNear holds that no slip is lost to what tells most names apart at once.
func TestMayBeNear(t *testing.T) {
	for _, pair := range [][2]string{{"person", "people"}, {"child", "children"}, {"mouse", "mice"}, {"foot", "feet"}, {"README.markdown", "README"}, {"a_b_c", "abc"}, {"TideTable", "tide-table"}, {"berths", "berth"}, {"Ferry", "ferry"}} {
		if got, want := Near(pair[0], pair[1]), Near(pair[1], pair[0]); got == Apart && want == Apart {
			t.Errorf("%s and %s are told apart", pair[0], pair[1])
		}
	}
	for _, name := range someNames {
		for _, turned := range Transpositions(name) {
			if got := string(turned); Mistyped(got, name) && len(name) > 4 && !mayBeNear(Stem(got), Stem(name)) {
				t.Errorf("%s is no slip for %s", got, name)
			}
		}
		for i := 1; i < len(name); i++ {
			if got := name[:i] + name[i+1:]; Near(got, name) == Typing && !mayBeNear(got, name) {
				t.Errorf("%s is no slip for %s", got, name)
			}
		}
	}
}

// TestBeginning holds how names begin for those that look for near ones.
func TestBeginning(t *testing.T) {
	for name, want := range map[string]string{"Tides": "ti", "_tides": "ti", "__init__": "in", "t": "t", "": "", "2a": "2a", ".env": "en", "Éa": "éa", "-": ""} {
		first, second := Beginning(name)
		got := strings.TrimRight(string([]rune{first, second}), "\x00")
		if got != want {
			t.Errorf("%q begins with %q, not %q", name, got, want)
		}
	}
}

// FuzzBeginning asks of any two names that are near that they are among those that are looked through.
func FuzzBeginning(f *testing.F) {
	for i, name := range someNames {
		f.Add(name, someNames[(i+1)%len(someNames)])
		f.Add(name, strings.ToUpper(name))
	}
	f.Fuzz(func(t *testing.T, got, want string) {
		if Near(got, want) == Apart || strings.ContainsFunc(got+want, func(r rune) bool { return r == unicode.ReplacementChar || r > unicode.MaxLatin1 }) {
			return
		}
		a, b := Beginning(got)
		c, d := Beginning(want)
		if a != c && !(a == d && b == c) && !strings.EqualFold(got, want) {
			t.Errorf("%q is near %q, and begins otherwise", got, want)
		}
	})
}

func BenchmarkNear(b *testing.B) {
	for b.Loop() {
		for _, got := range someNames {
			for _, want := range someNames {
				Near(got, want)
			}
		}
	}
}
