package changes

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/edit"
)

// TestThen puts a plan that makes and edits files before one that was made of what that leaves.
func TestThen(t *testing.T) {
	texts := map[string]string{"a.py": "one two three\n", "b.py": "four five\n"}
	text := func(at string) ([]byte, error) {
		if text, known := texts[at]; known {
			return []byte(text), nil
		}
		return nil, fmt.Errorf("%s is not there", at)
	}
	first := &Plan{
		Makes: []Make{{Path: "new/c.py", Text: "import two\n"}, {Path: "new/__init__.py"}, {Path: "old/d.py", Text: "d\n"}},
		Edits: []edit.Edit{{Path: "a.py", Line: 1, Start: 4, End: 8, Text: "from c "}},
	}
	for name, c := range map[string]struct {
		next         Plan
		makes, moves string
		drops        []string
		a, b         string // what is edited there
	}{
		"nothing":              {Plan{}, "new/c.py=import two new/__init__.py= old/d.py=d", "", nil, "4-8 from c ", ""},
		"a file that was made": {Plan{Moves: []Move{{"new/c.py", "c.py"}, {"b.py", "e.py"}}}, "c.py=import two new/__init__.py= old/d.py=d", "b.py>e.py", nil, "4-8 from c ", ""},
		"the folder around":    {Plan{Moves: []Move{{"old/", "older/"}}}, "new/c.py=import two new/__init__.py= older/d.py=d", "old/>older/", nil, "4-8 from c ", ""},
		"a text that was made": {Plan{Edits: []edit.Edit{{Path: "new/c.py", Start: 7, End: 10, Text: "six"}}}, "new/c.py=import six new/__init__.py= old/d.py=d", "", nil, "4-8 from c ", ""},
		"a marker of no use":   {Plan{Drops: []string{"new/__init__.py", "x/.gitkeep"}}, "new/c.py=import two old/d.py=d", "", []string{"x/.gitkeep"}, "4-8 from c ", ""},
		"the same line": {Plan{Edits: []edit.Edit{{Path: "a.py", Start: 9, End: 10, Text: "seven"}, {Path: "b.py", Start: 0, End: 4, Text: "eight"}}, Seen: map[string]string{"b.py": "x"}},
			"new/c.py=import two new/__init__.py= old/d.py=d", "", nil, "4-8 from seven ", "0-4 eight"},
		"what stands behind": {Plan{Edits: []edit.Edit{{Path: "a.py", Start: 16, End: 16, Text: " more"}}}, "new/c.py=import two new/__init__.py= old/d.py=d", "", nil, "4-8 from c |13-13  more", ""},
		"another file that is made": {Plan{Makes: []Make{{Path: "f.py", Text: "f\n"}}},
			"new/c.py=import two new/__init__.py= old/d.py=d f.py=f", "", nil, "4-8 from c ", ""},
	} {
		t.Run(name, func(t *testing.T) {
			both, err := first.Then(&c.next, text)
			if err != nil {
				t.Fatal(err)
			}
			var makes, moves []string
			for _, m := range both.Makes {
				makes = append(makes, m.Path+"="+strings.TrimSpace(m.Text))
			}
			for _, m := range both.Moves {
				moves = append(moves, m.From+">"+m.To)
			}
			edits := map[string]string{}
			for _, e := range both.Edits {
				edits[e.Path] = strings.TrimPrefix(edits[e.Path]+fmt.Sprintf("|%d-%d %s", e.Start, e.End, e.Text), "|")
			}
			if got := strings.Join(makes, " "); got != c.makes {
				t.Errorf("makes %q, not %q", got, c.makes)
			}
			if got := strings.Join(moves, " "); got != c.moves {
				t.Errorf("moves %q, not %q", got, c.moves)
			}
			if edits["a.py"] != c.a || edits["b.py"] != c.b || !slices.Equal(both.Drops, c.drops) {
				t.Errorf("edits %v, drops %v", edits, both.Drops)
			}
			seen := map[string]string{"a.py": Digest([]byte(texts["a.py"]))}
			for at, digest := range c.next.Seen {
				seen[at] = digest
			}
			if !reflect.DeepEqual(both.Seen, seen) {
				t.Errorf("it was made of %v", both.Seen)
			}
		})
	}
	if _, err := (&Plan{Moves: []Move{{"a.py", "b.py"}}}).Then(first, text); err == nil {
		t.Error("what moves files is not put first")
	}
	if _, err := first.Then(&Plan{Edits: []edit.Edit{{Path: "a.py", Start: 90, End: 91}}}, text); err == nil {
		t.Error("beyond the text")
	}
	if first.Makes[0].Path != "new/c.py" || first.Makes[0].Text != "import two\n" {
		t.Error("the first plan itself has changed")
	}
}
