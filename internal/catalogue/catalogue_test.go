package catalogue

import (
	"testing"
	"time"

	"dicaxon/internal/layout"
)

func TestEveryLayoutResolves(t *testing.T) {
	c := Catalogue{}
	for _, name := range append(c.Names(), CommonplaceName) {
		start := time.Now()
		l, err := c.Layout(name)
		if err != nil {
			t.Errorf("%s: %v", name, err)
			continue
		}
		t.Log(name, len(l.Entries), time.Since(start))
		if l.Name != name {
			t.Errorf("%s calls itself %s", name, l.Name)
		}
		if !l.Base && (l.Suits == "" || l.Describes == "" || len(l.Signs) == 0 || len(l.FirstSteps) == 0) {
			t.Errorf("%s lacks one of suits, describes, signs, first-steps", name)
		}
		for _, e := range l.Entries {
			if e.MadeBy != "" && e.Need == layout.Must {
				t.Errorf("%s: %s is made by %s, yet must be there", name, e.Path(), e.MadeBy)
			}
		}
	}
}
