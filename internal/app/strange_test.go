package app_test

import (
	"context"
	"fmt"
	"hash/fnv"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"runtime/debug"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
)

// strange are words that a stranger may write wherever a word is read.
var strange = []string{
	"", " ", "a/b", "/", "//", "../../../x", "..", ".", "./", `\`, `a\b`, "*", "**/", "[", "(", ")", "{{", "}}", "${", "%s", "$1", "<a>", "-", "--", "@", "@/", "#", "~", "~/x",
	"a:b:c", ":", "::", "a::", "x.y.z", ".x", "x.", "CON", "日本語", "\u202e", "\xff\xfe", "\x1b[2J", "node_modules/x", "package.json", "0", "null", "true", strings.Repeat("a", 5_000), strings.Repeat("a/", 300), strings.Repeat("../", 100),
}

// quoted finds what stands between quotes, or behind a key.
var quoted = regexp.MustCompile(`["'][^"'\n]{1,80}["']|(?m:: [^\s"'{\[][^\n]{0,80}$)`)

// TestStrangeWords puts strange words in the place of others, in settings and code, a few
// in each living example: whatever a rule makes of them, the check ends and so does the plan.
func TestStrangeWords(t *testing.T) {
	eachExample(t, func(t *testing.T, e *example, root string) {
		h := fnv.New64a()
		h.Write([]byte(t.Name()))
		random, what := rand.New(rand.NewPCG(h.Sum64(), 1)), ""
		defer func() {
			if r := recover(); r != nil {
				t.Errorf("%s: %v\n%s", what, r, debug.Stack())
			}
		}()
		for range trials(6) {
			said, undo := spoil(t, e, root, random)
			what = said
			if _, err := app.Check(context.Background(), root, app.Options{}); err != nil {
				t.Errorf("%s: %v", what, err)
			}
			undo()
		}
	})
}

// spoil puts a strange word into a file.
func spoil(t *testing.T, e *example, root string, random *rand.Rand) (what string, undo func()) {
	t.Helper()
	for _, at := range slices.Sorted(maps.Keys(e.files)) {
		if random.IntN(len(e.files)) > 0 && !strings.HasSuffix(at, "son") {
			continue
		}
		text := e.files[at]
		places := quoted.FindAllStringIndex(text, -1)
		if len(places) == 0 {
			continue
		}
		p, word := places[random.IntN(len(places))], strange[random.IntN(len(strange))]
		spoilt := text[:p[0]+1] + word + text[p[1]-1:]
		what = fmt.Sprintf("%s has %.60q for %s", at, word, text[p[0]:p[1]])
		full := filepath.Join(root, filepath.FromSlash(at))
		if err := os.WriteFile(full, []byte(spoilt), 0o644); err != nil {
			t.Fatal(err)
		}
		return what, func() { _ = os.WriteFile(full, []byte(text), 0o644) }
	}
	return "nothing", func() {}
}
