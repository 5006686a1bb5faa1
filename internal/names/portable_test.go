package names

import (
	"strings"
	"testing"
)

func TestUnportable(t *testing.T) {
	for _, good := range []string{"a.py", ".env", "console.py", "auxiliary", "com10.txt", "lpt", "caf\u00e9.md", "a b.md", "com.gannet.berths", strings.Repeat("x", 255)} {
		if why := Unportable(good); why != "" {
			t.Errorf("%q %s", good, why)
		}
	}
	for bad, want := range map[string]string{"con": "device", "NUL.txt": "device", "Aux.tar.gz": "device", "com1": "device", "LPT9.log": "device", "a:b": "holds", `a\b`: "holds", "a?": "holds", "a.": "ends", "a ": "ends", "a\x07": "nobody", "a\u202eb": "nobody", "a\xff": "nobody", strings.Repeat("x", 256): "too long"} {
		if why := Unportable(bad); !strings.Contains(why, want) {
			t.Errorf("%q: %q, not %q", bad, why, want)
		}
	}
	if Folded("Caf\u00e9/A.py") != Folded("CAFE\u0301/a.PY") || Folded("a") == Folded("b") {
		t.Error("folding")
	}
}
