package realign

import (
	"bytes"
	"strings"
	"testing"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
	"dicaxon/internal/rules"
)

// inParts gives the names in quotes behind "to:" of a text, each of which has to stand in the block of its part once
// its file lies in parts/.
func inParts(text string) (all []rules.Named) {
	for at := 0; ; {
		i := strings.Index(text[at:], `to: "`)
		if i < 0 {
			return all
		}
		start := at + i + len(`to: "`)
		end := start + strings.IndexByte(text[start:], '"')
		name := text[start:end]
		from := "app/" + strings.ReplaceAll(name, ".", "/") + ".txt"
		all = append(all, rules.Named{From: "routes.txt", Span: refs.Span{Start: int32(start), End: int32(end)}, Name: name, To: from, Anew: func(_, to string) string {
			below, ok := strings.CutPrefix(to, "app/")
			if !ok {
				return ""
			}
			return strings.ReplaceAll(strings.TrimSuffix(below, ".txt"), "/", ".")
		}, Block: func(line, to string) (rules.Block, bool) {
			below, ok := strings.CutPrefix(to, "parts/")
			part, rest, _ := strings.Cut(below, "/")
			b := rules.Block{Name: strings.ReplaceAll(strings.TrimSuffix(rest, ".txt"), "/", "."), Opens: "part " + part + " do", Closes: "end"}
			if strings.Contains(line, `"/`+part+`/`) || strings.Contains(line, `"/`+part+`"`) {
				b.Opens, b.Takes = "part "+part+", at do", "/"+part
			}
			return b, ok
		}})
		at = end
	}
}

// TestBlocks brings files to parts: the lines that name them come to stand in blocks of those, lines of one part that
// follow each other in one, and what cannot be sure is left to people.
func TestBlocks(t *testing.T) {
	for _, c := range []struct{ what, text, moves, want, left string }{
		{"one line", "routes\n  get \"/quay\", to: \"quay.show\"\nend\n", "quay/show=sea/quay/show",
			"routes\n  part sea do\n    get \"/quay\", to: \"quay.show\"\n  end\nend\n", ""},
		{"two that follow each other, and one behind another", "get \"/a\", to: \"a\"\nget \"/b\", to: \"b\"\nget \"/x\", to: \"x\"\nget \"/c\", to: \"c\"\n", "a=sea/a b=sea/b c=sea/c",
			"part sea do\n  get \"/a\", to: \"a\"\n  get \"/b\", to: \"b\"\nend\nget \"/x\", to: \"x\"\npart sea do\n  get \"/c\", to: \"c\"\nend\n", ""},
		{"two parts side by side", "get \"/a\", to: \"a\"\nget \"/b\", to: \"b\"\n", "a=sea/a b=land/b",
			"part sea do\n  get \"/a\", to: \"a\"\nend\npart land do\n  get \"/b\", to: \"b\"\nend\n", ""},
		{"what the block says of the path is taken off", "get \"/sea/a\", to: \"sea.a\"\nget \"/sea\", to: \"sea.all\"\n", "sea/a=sea/a sea/all=sea/all",
			"part sea, at do\n  get \"/a\", to: \"a\"\n  get \"/\", to: \"all\"\nend\n", ""},
		{"lines that end as on another system", "get \"/a\", to: \"a\"\r\nget \"/b\", to: \"b\"\r\n", "a=sea/a",
			"part sea do\r\n  get \"/a\", to: \"a\"\r\nend\r\nget \"/b\", to: \"b\"\r\n", ""},
		{"the last line, without an end", "get \"/a\", to: \"a\"", "a=sea/a", "part sea do\n  get \"/a\", to: \"a\"\nend", ""},
		{"a line that goes on is left", "get \"/a\", to: \"a\",\n  as: :a\n", "a=sea/a", "get \"/a\", to: \"a\",\n  as: :a\n", "it names a, which goes to parts/sea/a.txt, where it is not found by a name like that"},
		{"a line that begins a block is left", "get \"/a\", to: \"a\" do\nend\n", "a=sea/a", "get \"/a\", to: \"a\" do\nend\n", "it names a, which goes to parts/sea/a.txt, where it is not found by a name like that"},
		{"what goes elsewhere in the application is named anew", "get \"/a\", to: \"a\"\n", "a=../app/quay/a", "get \"/a\", to: \"quay.a\"\n", ""},
	} {
		t.Run(c.what, func(t *testing.T) {
			tree, p := Texts{"routes.txt": []byte(c.text)}, &changes.Plan{}
			for _, n := range inParts(c.text) {
				tree[n.To] = nil
			}
			for _, m := range strings.Fields(c.moves) {
				from, to, _ := strings.Cut(m, "=")
				to = "parts/" + to + ".txt"
				if below, up := strings.CutPrefix(to, "parts/../"); up {
					to = below
				}
				p.Moves = append(p.Moves, changes.Move{From: "app/" + from + ".txt", To: to})
			}
			edits, remarks := Follow(refs.NewGraph(tree), tree, inParts(c.text), p)
			made, err := edit.Apply(tree["routes.txt"], edits)
			if err != nil {
				t.Fatal(err)
			}
			if !bytes.Equal(made, []byte(c.want)) {
				t.Errorf("it becomes\n%s\nand not\n%s", made, c.want)
			}
			left := ""
			for _, r := range remarks {
				left += r.Says
			}
			if left != c.left {
				t.Errorf("left: %q, and not %q", left, c.left)
			}
		})
	}
}

// TestKeysOfFolders moves what lies in folders that settings name: their keys follow where all of it goes to one other
// folder beside, and hold back what nobody asked for where it does not.
func TestKeysOfFolders(t *testing.T) {
	const text = "core:\n  schema: x\nmarts:\n  schema: y\n"
	key := func(name string, others ...string) rules.Named {
		start := int32(strings.Index(text, name+":"))
		return rules.Named{From: "settings.yml", Span: refs.Span{Start: start, End: start + int32(len(name))}, Name: name, To: "models/" + name, Holds: ".sql", Anew: func(_, to string) string {
			for _, other := range append(others, "") {
				if to == "models/"+other {
					return ""
				}
			}
			below, ok := strings.CutPrefix(to, "models/")
			if !ok || strings.Contains(below, "/") {
				return ""
			}
			return below
		}}
	}
	for _, c := range []struct{ what, moves, want, left string }{
		{"all of it", "models/core/a.sql=models/warehouse/a.sql models/core/b.sql=models/warehouse/b.sql", strings.Replace(text, "core", "warehouse", 1), ""},
		{"some of it", "models/core/a.sql=models/warehouse/a.sql", text, ""},
		{"further down in it", "models/core/a.sql=models/core/x/a.sql models/core/b.sql=models/core/b2.sql", text, ""},
		{"to two folders", "models/core/a.sql=models/warehouse/a.sql models/core/b.sql=models/other/b.sql", text, "its settings for models/core/ would hold for nothing"},
		{"to one that has settings", "models/core/a.sql=models/marts/a.sql models/core/b.sql=models/marts/b.sql", text, "its settings for models/core/ would hold for nothing"},
		{"the folder itself", "models/core/=models/warehouse/", strings.Replace(text, "core", "warehouse", 1), ""},
		{"what it is not named for", "models/core/note.md=notes/note.md", text, ""},
	} {
		t.Run(c.what, func(t *testing.T) {
			tree, p := Texts{"settings.yml": []byte(text), "models/core/a.sql": nil, "models/core/b.sql": nil, "models/core/note.md": nil, "models/marts/c.sql": nil}, &changes.Plan{}
			for _, m := range strings.Fields(c.moves) {
				from, to, _ := strings.Cut(m, "=")
				p.Moves = append(p.Moves, changes.Move{From: from, To: to})
			}
			edits, remarks := Follow(refs.NewGraph(tree), tree, []rules.Named{key("core", "marts"), key("marts", "core")}, p)
			made, err := edit.Apply([]byte(text), edits)
			if err != nil || string(made) != c.want {
				t.Errorf("it becomes\n%s\nand not\n%s (%v)", made, c.want, err)
			}
			left := map[string]bool{}
			for _, r := range remarks {
				left[r.Says] = true
			}
			if len(left) > 1 || c.left != "" && !left[c.left] || c.left == "" && len(left) > 0 {
				t.Errorf("left: %v, and not %q", left, c.left)
			}
		})
	}
}
