package app_test

import (
	"os"
	"slices"
	"sync/atomic"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// TestSlipsPutRight makes slips in living examples, what was moved and what was written wrong,
// and has realign put them right, as far as it is certain. Whatever it does, no check finds an
// error or a warning afterwards that it did not find before, a second time there is nothing to
// do, and undo gives back what was there, to the byte. With -short one slip of each example is
// made.
func TestSlipsPutRight(t *testing.T) {
	t.Parallel()
	var all, whole, clean atomic.Int64
	t.Run("examples", func(t *testing.T) {
		eachExample(t, func(t *testing.T, e *example, root string) {
			slips := slices.DeleteFunc(slices.Clone(e.slips), func(s slip) bool { return s.do[0] != "move" && s.do[0] != "edit" })
			if testing.Short() {
				slips = slips[:min(1, len(slips))]
			}
			for _, s := range slips {
				s.make(t, root)
				all.Add(1)
				switch putRight(t, e, root, s) {
				case "whole":
					whole.Add(1)
				case "clean":
					clean.Add(1)
				default:
					if os.Getenv("PROOF") == "show" {
						t.Logf("left: %s", s.line)
					}
				}
				treetest.Restore(t, root, e.files)
			}
		})
	})
	right := share(int(whole.Load()+clean.Load()), int(all.Load()))
	t.Logf("of %d slips %d are taken back to the byte, and %d more put right; right %.3f", all.Load(), whole.Load(), clean.Load(), right)
	if least := 0.72; right < least && !testing.Short() { // a few say less than all
		t.Errorf("below %.2f", least)
	}
}

// putRight realigns a tree with one slip in it, and says what it is then: whole, as the example
// is; clean, where a check finds nothing; or neither.
func putRight(t *testing.T, e *example, root string, s slip) string {
	t.Helper()
	check := func() *app.Report {
		r, err := app.Check(t.Context(), root, app.Options{})
		if err != nil {
			t.Fatalf("%s: %v", s.line, err)
		}
		return r
	}
	plan := func() *app.Realignment {
		r, err := app.Realign(t.Context(), root, app.RealignOptions{Least: finding.Warning})
		if err != nil {
			t.Fatalf("%s: %v", s.line, err)
		}
		return r
	}
	before, changed := check().Totals, texts(t, root)
	r := plan()
	if r.Empty() {
		return ""
	}
	if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
		t.Errorf("%s: %v", s.line, err)
		return ""
	}
	after, now := check().Totals, texts(t, root)
	if after.Error > before.Error || after.Error+after.Warning > before.Error+before.Warning {
		t.Errorf("%s: %v before, %v after", s.line, before, after)
	}
	if again := plan(); !again.Empty() {
		t.Errorf("%s: a second time there is something to do: %v %v %v", s.line, again.Moves, again.Makes, again.Edits)
	}
	if _, err := changes.Undo(t.Context(), root, false); err != nil {
		t.Errorf("%s: %v", s.line, err)
	}
	if d := difference(changed, texts(t, root)); d != "" {
		t.Errorf("%s: undone, it differs:\n%s", s.line, d)
	}
	switch {
	case difference(e.files, now) == "":
		return "whole"
	case after.Error+after.Warning == 0:
		return "clean"
	}
	return ""
}
