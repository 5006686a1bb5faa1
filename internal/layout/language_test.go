package layout

import (
	"errors"
	"slices"
	"strings"
	"testing"
	"time"

	"dicaxon/internal/manifest"
	"dicaxon/internal/source"
)

// TestEveryMistakeIsTold: all at once, in the order of their places, each cause once.
func TestEveryMistakeIsTold(t *testing.T) {
	_, mistakes := Examine(texts{"team/x": `dicaxon: 1
layout: team/x
titel: T
asks: {unit: {question: Q, default: A b, shape: snake}}
tree:
  a: {rol: R.}
  b/: {need: shoud, tree: {c: {role: R., starter: absent}}}
  d/: {role: R., not-here: {what: X, goes-to: e/}}
rules:
  - {level: error}
`}, "team/x")
	var several source.Errors
	if err := source.Join(mistakes); !errors.As(err, &several) {
		t.Fatal(err)
	}
	want := []string{`3:1: "titel"`, `4:15: the default`, `6:7: "rol"`, `7:14: "shoud"`, `7:28: the starter "absent"`, `8:3: "X" goes to`, `10:6: a rule says which`}
	for i, err := range several {
		if i >= len(want) || !strings.Contains(err.Error(), "team/x.yaml:"+want[i]) {
			t.Errorf("%d: %v", i, err)
		}
	}
	if len(several) != len(want) {
		t.Errorf("%d mistakes, want %d", len(several), len(want))
	}
}

// TestPathsAsKeys: a path stands for the folders on it, whether they are written
// elsewhere or not.
func TestPathsAsKeys(t *testing.T) {
	base := "dicaxon: 1\nlayout: team/base\ntitle: B\ntree:\n  src/:\n    need: must\n    role: Sources.\n    tree: {main/: {role: Shipped.}}\n"
	l := resolve(t, `builds-on: team/base
tree:
  src/main/java/<top>/: {role: Code.}
  src/test/: {role: Tests., need: should}
  docs/plans/: {role: Plans.}
  docs/: {role: Texts., tree: {"*.md": {role: One.}}}
`, "team/base", base)
	for path, role := range map[string]string{"src/": "Sources.", "src/main/": "Shipped.", "src/main/java/": "On the way to <top>.", "src/main/java/<top>/": "Code.", "src/test/": "Tests.", "docs/": "Texts.", "docs/plans/": "Plans.", "docs/*.md": "One."} {
		if e := l.Find(path); e == nil || e.Role != role {
			t.Errorf("%s: %+v", path, e)
		}
	}
	if l.Find("src/").Need != Must {
		t.Error("a folder on the way lost what was said of it")
	}
}

func TestShapesOfOnesOwn(t *testing.T) {
	l := resolve(t, `shapes: {dotted: '[A-Z]\w*(\.[A-Z]\w*)*'}
asks: {project: {question: Q, shape: dotted, default: Gannet.Tides, of-folder: true}}
tree:
  <project:dotted>/: {role: R.}
  <day:date>.csv: {role: R.}
  <number:digits>.md: {role: R.}
`)
	for name, want := range map[string]string{"2026-02-28.csv": "<day>.csv", "2026-02-30.csv": "", "04.md": "<number>.md", "x.md": ""} {
		got := ""
		if e := l.Root.Scope.Find(name, false); e != nil {
			got = e.Label()
		}
		if got != want {
			t.Errorf("%s: %q", name, got)
		}
	}
	if l.Root.Scope.Find("Gannet.Tides", true) == nil || l.Root.Scope.Find("gannet", true) != nil {
		t.Error("the shape of its own does not hold")
	}
	ask := l.Ask("project")
	if err := ask.Check("gannet"); err == nil || err.Error() != `project is written as "Gannet.Tides" is; "gannet" is not` {
		t.Error(err)
	}
	if got := ask.DefaultIn("Crews.Api"); got != "Crews.Api" {
		t.Error(got)
	}
	text, err := Pack(l)
	if err != nil {
		t.Fatal(err)
	}
	again, err := Unpack(text, nil)
	if err != nil || again.Root.Scope.Find("Gannet.Tides", true) == nil {
		t.Error("packing loses it", err)
	}
}

// TestConditions: what holds for some projects only is neither wanted nor asked of the
// others.
func TestConditions(t *testing.T) {
	l := resolve(t, `tree:
  Kernel.php: {need: must, when: {needs: "laravel/framework <= 10"}, role: R.}
  tsconfig.json: {need: should, when: {has: src/, lacks: jsconfig.json}, role: R.}
rules:
  - {rule: text, files: Kernel.php, must: x, when: {needs: laravel/framework}}
`)
	for i, c := range []struct {
		needs          string
		there          []string
		kernel, config Need
		rules          int
	}{
		{"^10.3", []string{"src/"}, Must, Should, 1},
		{"^11.0", []string{"src/", "jsconfig.json"}, May, May, 1},
		{"", nil, May, May, 1},
		{"none", nil, May, May, 0},
	} {
		var needs []manifest.Dependency
		if c.needs != "none" {
			needs = []manifest.Dependency{{Name: "laravel/framework", Version: c.needs}}
		}
		its := l.For(func(w *Condition) bool {
			return w.Holds(needs, func(at string) bool { return slices.Contains(c.there, at) })
		})
		if k, s := its.Find("Kernel.php").Need, its.Find("tsconfig.json").Need; k != c.kernel || s != c.config || len(its.Rules) != c.rules {
			t.Errorf("%d: %v %v %d", i, k, s, len(its.Rules))
		}
	}
	if l.Find("Kernel.php").Need != Must {
		t.Error("the layout itself was changed")
	}
}

// TestPatternsTakeNoTime: names that nearly fit a pattern of many open parts.
func TestPatternsTakeNoTime(t *testing.T) {
	late := time.AfterFunc(10*time.Second, func() { panic("matching takes too long") })
	defer late.Stop()
	name := strings.Repeat("a", 250)
	for _, text := range []string{strings.Repeat("*a", 100) + "b", strings.Repeat("?*", 60) + "b", "<x:snake><y:snake><z:snake><w:snake><v:snake>b", "*<x>*<y>*<z>*b"} {
		p, err := parsePattern(text)
		if err != nil {
			t.Fatal(err)
		}
		if _, ok := p.Match(name, nil); ok {
			t.Errorf("%.20s fits", text)
		}
		if _, ok := p.Match(name+"b", nil); !ok {
			t.Errorf("%.20s does not fit what it should", text)
		}
	}
	if _, err := parsePattern("<x>*<x>*<y>b"); err == nil {
		t.Error("a name captured twice, with five parts that vary, is taken")
	}
}

func TestShadowedEntries(t *testing.T) {
	l := resolve(t, "tree:\n  <a:snake>.py: {role: R.}\n  <b:lower>.py: {role: R.}\n  \"*.md\": {role: R.}\n  README.md: {role: R.}\n")
	var all []string
	for _, err := range l.Shadowed() {
		all = append(all, err.Error())
	}
	if len(all) != 1 || !strings.Contains(all[0], `nothing is ever taken for "<b:lower>.py": "<a:snake>.py", on line 5`) {
		t.Error(all)
	}
}
