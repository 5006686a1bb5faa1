package rules

import (
	"fmt"
	"strings"
	"testing"
	"time"
)

// TestManyBroken holds that imports that lead nowhere cost what they are, and not what they are times what may be
// meant: with four times of both, a check takes about four times as long, and not sixteen.
func TestManyBroken(t *testing.T) {
	project := func(n int) files {
		all := files{}
		for i := range n {
			text := fmt.Sprintf("from quays.gone%d import tide_%d, crew_%d\n", i, i, i)
			for k := range 40 {
				text += fmt.Sprintf("\n\ndef name_%d_%d(x):\n    return x\n", i, k)
			}
			all[fmt.Sprintf("quays/part%d.py", i)] = text + strings.Repeat("# tide_1 crew_1\n", 20)
		}
		return all
	}
	took := func(n int) time.Duration {
		all, start := project(n), time.Now()
		if found := checked(t, "- {rule: dangling}", all); len(found) != n {
			t.Fatalf("%d of %d are told", len(found), n)
		}
		return time.Since(start)
	}
	took(10)
	small, large := took(60), took(240)
	if large > 12*small {
		t.Errorf("60 files take %v, and four times as many %v", small, large)
	}
}
