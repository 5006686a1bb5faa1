package refs

import (
	"slices"
	"testing"
)

func TestRespell(t *testing.T) {
	for _, c := range []struct {
		ref                      Ref
		from, to, newFrom, newTo string
		want                     Spelling
	}{
		{Ref{Name: "./card"}, "src/a.js", "src/card.ts", "src/a.js", "src/berths/card.ts", Spelling{Name: "./berths/card"}},
		{Ref{Name: "../berths"}, "src/a/b.js", "src/berths/index.js", "src/b.js", "src/berths/index.js", Spelling{Name: "./berths"}},
		{Ref{Name: "./card.js"}, "src/a.ts", "src/card.ts", "src/a.ts", "lib/card.ts", Spelling{Name: "../lib/card.js"}},
		{Ref{Name: "@/berths/card"}, "src/a.js", "src/berths/card.js", "src/a.js", "src/piers/card.js", Spelling{Name: "@/piers/card"}},
		{Ref{Name: "ferry.berths"}, "run.py", "ferry/berths/__init__.py", "run.py", "ferry/areas/berths/__init__.py", Spelling{Name: "ferry.areas.berths"}},
		{Ref{Name: "views", Relative: 1}, "ferry/a.py", "ferry/views.py", "ferry/b/a.py", "ferry/views.py", Spelling{Name: "views", Relative: 2}},
		{Ref{Name: `App\Berth`}, "x.php", "app/Berth.php", "x.php", "app/Models/Berth.php", Spelling{Name: `App\Models\Berth`}},
		{Ref{Name: "gannet.example/ferry/tides"}, "main.go", "tides", "main.go", "internal/tides", Spelling{Name: "gannet.example/ferry/internal/tides"}},
		{Ref{Name: "crate::berth::Card"}, "src/lib.rs", "src/berth.rs", "src/lib.rs", "src/harbour/berth.rs", Spelling{Name: "crate::harbour::berth::Card"}},
		{Ref{Name: "a.css?v=1#x"}, "index.html", "a.css", "index.html", "css/a.css", Spelling{Name: "css/a.css?v=1#x"}},
	} {
		if got := Respell(c.ref, c.from, c.to, c.newFrom, c.newTo); !slices.Contains(got, c.want) {
			t.Errorf("%v from %s to %s: %v", c.ref.Name, c.newFrom, c.newTo, got)
		}
	}
}

func FuzzRespell(f *testing.F) {
	f.Add("./a", "x/y.js", "x/a.ts", "y.js", "z/a.ts", uint8(0))
	f.Add("a.b::c\\d", "", "/", ".", "..", uint8(3))
	f.Fuzz(func(t *testing.T, name, from, to, newFrom, newTo string, dots uint8) {
		if len(Respell(Ref{Name: name, Relative: int(dots % 5)}, from, to, newFrom, newTo)) > 100 {
			t.Error("too many ways")
		}
	})
}

// TestWays: a file names another by the way to it.
func TestWays(t *testing.T) {
	for _, c := range [][3]string{{"src/a.js", "src/x.js", "./a.js"}, {"src/a.js", "src/b/x.js", "../a.js"}, {"src/b/a.js", "src/x.js", "./b/a.js"}, {"lib/a.js", "src/b/x.js", "../../lib/a.js"}, {"a.js", "x.js", "./a.js"}, {"a.js", "src/x.js", "../a.js"}} {
		if got := WayTo(c[1], c[0]); got != c[2] {
			t.Errorf("%s from %s is %q, not %q", c[0], c[1], got, c[2])
		}
	}
}
