package edit

import (
	"math/rand/v2"
	"testing"
)

// TestThen holds that two steps in one make the same text, wherever the second touches the first.
func TestThen(t *testing.T) {
	r := rand.New(rand.NewPCG(1, 2))
	some := func(n int) (all []Edit) {
		for at := 0; at < n; {
			start := at + r.IntN(6)
			end := start + r.IntN(4)
			if end > n {
				break
			}
			all = append(all, Edit{Path: "a", Start: start, End: end, Text: "ABCDEF"[:r.IntN(6)]})
			at = end + r.IntN(2)
			if start == end {
				at++
			}
		}
		return all
	}
	for range 20_000 {
		text := []byte("the gannet line\nsails at dawn\n")[:10+r.IntN(20)]
		first := some(len(text))
		between, err := Apply(text, first)
		if err != nil {
			t.Fatal(err)
		}
		then := some(len(between))
		want, err := Apply(between, then)
		if err != nil {
			t.Fatal(err)
		}
		both, err := Then(text, first, then)
		if err != nil {
			t.Fatal(err)
		}
		if got, err := Apply(text, both); err != nil || string(got) != string(want) {
			t.Fatalf("%q, %v, then %v: %q, not %q, by %v: %v", text, first, then, got, want, both, err)
		}
	}
	if _, err := Then([]byte("ab"), nil, []Edit{{Start: 1, End: 3}}); err == nil {
		t.Error("beyond the text")
	}
}
