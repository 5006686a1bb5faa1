package reconcile

import (
	"cmp"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
)

// Evidence says how much speaks for a home, the weakest first. What is no more
// than an ending never makes a home.
type Evidence uint8

// The evidence, in its order.
const (
	None       Evidence = iota
	EndingOnly          // nothing but the ending fits
	Contents            // its name or its contents fit by more than an ending
	Kind                // its name says of what kind it is, where somebody named the layout
	OfUnit              // it belongs to that unit: a test by what it tests
	Shown               // its text shows what it is
	Near                // a near name: case, separator, plural, a slip
	Told                // the layout says of its folder: not here, but there
	Exact               // the wanted name exactly
	Declared            // its own package or namespace line says so
	Referenced          // a reference names it there
)

// A home is one place where a stray may belong.
type home struct {
	kind     finding.Kind // misplaced or misnamed
	path     string       // a folder's ends in "/"
	entry    *layout.Entry
	env      *layout.Env
	evidence Evidence
	says     string // what the evidence is, where there is more to say than its kind
	slip     names.Slip
	gaps     []int // what it would fill
	wanted   bool  // it fills a gap itself, and not only a folder around it
	leaves   bool  // it leads out of the unit that the stray stands in
	named    bool  // of several units, its text names this one
	steps    int   // folders on the way
	makes    int   // of which would have to be made
}

func truth(b bool) int {
	if b {
		return 1
	}
	return 0
}

// better orders homes of one stray, the best first: evidence before all, then a
// place that waits for it, then the nearest.
func better(a, b *home) int {
	return cmp.Or(
		cmp.Compare(b.evidence, a.evidence),
		cmp.Compare(a.slip, b.slip),
		truth(b.wanted)-truth(a.wanted),
		truth(a.leaves)-truth(b.leaves),
		truth(b.named)-truth(a.named),
		cmp.Compare(len(b.gaps), len(a.gaps)),
		cmp.Compare(a.steps, b.steps),
		cmp.Compare(a.makes, b.makes),
	)
}
