package reconcile

import (
	"slices"
	"testing"

	"dicaxon/internal/names"
)

// TestBetter holds the order of what speaks for a home: each thing decides before
// all that come after it, however much they say.
func TestBetter(t *testing.T) {
	good := home{evidence: Referenced, slip: names.Apart - 1, wanted: true, leaves: false, named: true, gaps: []int{1, 2}, steps: 1, makes: 0}
	bad := home{evidence: Contents, slip: names.Apart, wanted: false, leaves: true, named: false, gaps: nil, steps: 5, makes: 3}
	order := []struct {
		what string
		take func(to, from *home)
	}{
		{"evidence", func(to, from *home) { to.evidence = from.evidence }},
		{"the slip", func(to, from *home) { to.slip = from.slip }},
		{"that it is wanted", func(to, from *home) { to.wanted = from.wanted }},
		{"that it stays in its unit", func(to, from *home) { to.leaves = from.leaves }},
		{"that its text names the unit", func(to, from *home) { to.named = from.named }},
		{"what it fills", func(to, from *home) { to.gaps = from.gaps }},
		{"how near it is", func(to, from *home) { to.steps = from.steps }},
		{"what must be made", func(to, from *home) { to.makes = from.makes }},
	}
	for i, by := range order {
		// Alike in all that comes before, better in this, worse in all after.
		a, b := good, good
		by.take(&b, &bad)
		for _, after := range order[i+1:] {
			after.take(&a, &bad)
		}
		if better(&a, &b) >= 0 || better(&b, &a) <= 0 {
			t.Errorf("%s does not decide before what comes after it", by.what)
		}
		if i < len(order)-1 && alike(&a, &b) {
			t.Errorf("homes that differ in %s are alike", by.what)
		}
	}
	same := good
	if better(&good, &same) != 0 || !alike(&good, &same) {
		t.Error("a home differs from itself")
	}
}

// TestEvidence holds the order of the evidence.
func TestEvidence(t *testing.T) {
	order := []Evidence{None, EndingOnly, Contents, OfUnit, Shown, Near, Told, Exact, Declared, Referenced}
	if !slices.IsSorted(order) {
		t.Error("the evidence is not in its order")
	}
}
