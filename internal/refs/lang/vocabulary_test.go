package lang_test

import (
	"fmt"
	"strings"
	"testing"

	"dicaxon/internal/refs/lang"
)

// TestVocabulary finds every word of a text, and of those that are not there says
// so of hardly any.
func TestVocabulary(t *testing.T) {
	for _, words := range []int{0, 1, 10, 300, 5000} {
		var text strings.Builder
		for i := range words {
			fmt.Fprintf(&text, "pier%d, (berth_%d) ", i, i)
		}
		v := lang.VocabularyOf([]byte(text.String()))
		for i := range words {
			if !v.Has(fmt.Sprintf("pier%d", i)) || !v.Has(fmt.Sprintf("berth_%d", i)) {
				t.Fatalf("of %d words, number %d is not found", words, i)
			}
		}
		wrong := 0
		for i := range 2000 {
			if v.Has(fmt.Sprintf("tide%d", i)) {
				wrong++
			}
		}
		if wrong > 60 {
			t.Errorf("of %d words, %d of 2000 that are not there are said to be", words, wrong)
		}
	}
	if !(lang.Vocabulary(nil)).Has("anything") {
		t.Error("of a text that nobody read, a word is said not to be there")
	}
}

// TestBlocks looks for the words that begin the blocks around a place.
func TestBlocks(t *testing.T) {
	for code, want := range map[string]bool{
		"try { HERE } catch {}":                       true,
		"try{f();{ HERE }}":                           true,
		"try { f() } catch {} HERE":                   false,
		"mytry { HERE }":                              false,
		"if (a(b)) { HERE }":                          true,
		"if (a) { x } else { HERE }":                  false,
		"function f() { HERE }":                       false,
		"if (a) { x }\nfunction f() { try { y } HERE": false,
		"HERE": false,
	} {
		at := strings.Index(code, "HERE")
		blocks := lang.BlocksOf([]byte(code), "try", "if")
		for _, from := range []int{at, len(code), at} { // one behind it, and back
			if got := blocks.Around(from); from == at && got != want {
				t.Errorf("%s: %v", code, got)
			}
		}
	}
}

// TestSplit cuts spans without losing where they are.
func TestSplit(t *testing.T) {
	text := []byte("x{ a as b , c,, d }")
	var all []string
	for _, s := range lang.Split(text, lang.At(2, len(text)-1), ",") {
		first := lang.FirstWord(text, s)
		all = append(all, fmt.Sprintf("%d:%s:%s", s.Start, s.In(text), first.In(text)))
	}
	if got := strings.Join(all, " | "); got != "3:a as b:a | 12:c:c | 16:d:d" {
		t.Error(got)
	}
	for _, s := range []lang.Span{{Start: -1, End: 2}, {Start: 3, End: 2}, {Start: 0, End: 100}} {
		if s.In(text) != nil {
			t.Errorf("%+v is in the text", s)
		}
	}
	if lang.HasWord(text, "") || !lang.HasWord(text, "as") || lang.HasWord(text, "s") || len(lang.Words(text, "a")) != 1 {
		t.Error("words are parts of words")
	}
	lines := lang.LinesOf([]byte("a\nbc\n"))
	if line, column := lines.At(3); line != 2 || column != 2 || lines.Start(2) != 2 || lines.Start(9) != -1 {
		t.Errorf("%d:%d", line, column)
	}
}
