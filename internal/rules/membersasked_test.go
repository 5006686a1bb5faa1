package rules

import (
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/lazy"
)

// TestThingBefore reads what the last word of a text is asked of.
func TestThingBefore(t *testing.T) {
	for code, want := range map[string]string{
		"tides.next": "tides", "this.tides.next": "tides", "$this->tides->next": "tides", "self.tides.next": "tides", "tides?.next": "tides", "tides!.next": "tides", "tides\n    .next": "tides",
		"a.tides.next": "-", "a->tides->next": "-", "Sea::tides.next": "-", "Sea::next": "Sea", "sea::Tides::next": "Tides", "Sea::Tides::next": "-", "sea::next": "-", "Self::next": "Self", "all().next": "-", "all[0].next": "-", "next": "", "a next": "", "a > next": "",
	} {
		at := strings.LastIndex(code, "next")
		thing, plain := thingBefore([]byte(code), at)
		got := string(thing)
		if thing != nil && !plain {
			got = "-"
		}
		if got != want {
			t.Errorf("%q: %q", code, got)
		}
		if is := askedWith([]byte(code), at) != ""; is != (thing != nil) {
			t.Errorf("%q is asked: %v", code, is)
		}
	}
}

// TestTypeAfter reads the type that stands behind the first thing called tides.
func TestTypeAfter(t *testing.T) {
	for code, want := range map[string]string{
		"tides: Tides)": "Tides", "tides?: Tides;": "Tides", "tides: Tides\n": "Tides", "tides: any Tides,": "Tides", "tides: Tides = x": "Tides",
		"tides: Tides[]": "", "tides: Tides | null": "", "tides: Promise<Tides>": "", "tides: string": "", "tides: sea.Tides": "", "tides = x": "", ".tides: Tides)": "",
	} {
		at := strings.Index(code, "tides")
		of, _ := typeAfter([]byte(code), at, at+len("tides"))
		if of != want {
			t.Errorf("%q: %q", code, of)
		}
	}
}

// TestUntyped says where a thing gets its name without a type.
func TestUntyped(t *testing.T) {
	for code, want := range map[string]bool{
		"var it = x": true, "const it = x": true, "for (const it of all)": true, "it => x": true, "(a, it) => x": true, "(it, a) => x": true, "it -> x": true, "all as $it": true, "for it in all": true,
		"go(it)": false, "it.next": false, "(it, a) { }": false, "return it;": false, "$it->next": false, "it + 1": false,
	} {
		at := strings.Index(code, "it")
		if got := untyped([]byte(code), at, at+len("it")); got != want {
			t.Errorf("%q: %v", code, got)
		}
	}
}

// TestBases reads what heads say that types are built on.
func TestBases(t *testing.T) {
	finders := map[string]string{"java": `\b(?:extends|implements)\s+([\w.]+(?:\s*,\s*[\w.]+)*)`, "sharp": `(?s):\s*(.+?)\s*(?:\bwhere\b.*)?$`}
	for head, want := range map[string][]string{
		"java A<T extends X> extends B<C, D> implements E, f.G ": {"B", "E", "G"}, "java A ": {},
		"sharp A(IFoo foo, List<Bar> all) : Base(foo), IOne<Map<X, Y>>, N.ITwo where T : class ": {"Base", "IOne", "ITwo"}, "sharp A<T>(Func<int, T> f) ": {},
	} {
		language, head, _ := strings.Cut(head, " ")
		c := &Call{regexps: map[string][]*lazy.Regexp{"bases": {lazy.New(finders[language])}}}
		if got := c.basesOf(&ownType{head: []byte(head)}); !slices.Equal(got, want) {
			t.Errorf("%s: %q", head, got)
		}
	}
}

// TestTopOf leaves a body without what its brackets hold, line by line.
func TestTopOf(t *testing.T) {
	if got := string(topOf([]byte("a(int b) { c }\nd { e {\n f } }\ng;"))); got != "a(     ) {   }\nd {    \n     }\ng;" {
		t.Errorf("%q", got)
	}
}

// TestAsFar gives as much of a version as another says.
func TestAsFar(t *testing.T) {
	for _, v := range [][3]string{{"9.0", "8.0", "9.0"}, {"1.24.1", "1.22", "1.24"}, {"21", "17.0", "21"}, {"3.13.2", "3", "3"}} {
		if got := asFar(v[0], v[1]); got != v[2] {
			t.Errorf("%s as %s: %s", v[0], v[1], got)
		}
	}
}
