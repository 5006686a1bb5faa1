// Package doing knows what a run is busy with, so that whoever stops it can say so.
package doing

import "sync/atomic"

var step, place atomic.Pointer[string]

// Step says which part of the work begins, such as "the rule wall".
func Step(what string) {
	step.Store(&what)
	place.Store(nil)
}

// At says which file or folder that is about now.
func At(path string) { place.Store(&path) }

// Now gives both, "" before anything began.
func Now() string {
	said := ""
	if s := step.Load(); s != nil {
		said = *s
	}
	if at := place.Load(); at != nil && *at != "" {
		if said != "" {
			said += ", "
		}
		said += *at
	}
	return said
}
