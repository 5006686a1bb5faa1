package layout

import (
	"errors"
	"fmt"
	"io/fs"
	"slices"
	"strconv"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// texts is a Source of layouts given as text, by their names.
type texts map[string]string

func (t texts) Open(name string) (fs.FS, string, error) {
	text, ok := t[name]
	if !ok {
		return nil, name, fmt.Errorf("no %s: %w", name, fs.ErrNotExist)
	}
	return fstest.MapFS{FileName: {Data: []byte(text)}, "starters/there.tmpl": {Data: []byte("hello")}}, name + ".yaml", nil
}

func (t texts) Names() []string { return keysOf(t) }

const head = "dicaxon: 1\nlayout: team/x\ntitle: T\n"

func resolve(t *testing.T, body string, more ...string) *Layout {
	t.Helper()
	from := texts{"team/x": head + body}
	for i := 0; i+1 < len(more); i += 2 {
		from[more[i]] = more[i+1]
	}
	l, err := Resolve(from, "team/x")
	if err != nil {
		t.Fatal(err)
	}
	return l
}

// TestComplaints shows each input beside what is said about it.
func TestComplaints(t *testing.T) {
	for _, c := range []struct{ body, says string }{
		{"tre: {}\n", `team/x.yaml:4:1: "tre" is no key of a layout; did you mean "tree"?`},
		{"tree:\n  a: {role: R., nede: must}\n", `team/x.yaml:5:17: "nede" is no key of an entry; did you mean "need"?`},
		{"tree:\n  a: {role: R., need: always}\n", `team/x.yaml:5:23: "always" is no need; it has may, should, must, should-not, must-not`},
		{"tree:\n  a: {role: [R]}\n", `team/x.yaml:5:13: role is a text, not a list`},
		{"tree:\n  a: {role: ''}\n", `role is empty`},
		{"tree:\n  a: must\n", `team/x.yaml:5:6: an entry is written as keys with values, not as a single value`},
		{"tree: [a]\n", `tree is written as names with entries below, not as a list`},
		{"tree:\n  a: {}\n", `team/x.yaml:5:3: "a" has no role; say in one sentence what it is for`},
		{"tree:\n  a:\n    role: R.\n  a:\n    role: S.\n", `stands here twice, first on line 5`},
		{"tree:\n  a | b/c: {role: R.}\n", `"b/c" holds a slash`},
		{"tree:\n  a/../c: {role: R.}\n", `"../c" leaves the folder`},
		{"shapes: {chapter: '['}\n", `the shape "chapter" is no regular expression`},
		{"shapes: {snake: x}\n", `there is a shape "snake" already`},
		{"tree:\n  <a:chaptr>: {role: R.}\nshapes: {chapter: x}\n", `"chaptr" is no shape; the shapes are snake, kebab, camel, pascal, lower, upper, digits, date, chapter`},
		{"asks: {a: {question: Q, default: '7', shape: date}}\n", `a is written as a day, such as 2026-11-26; "7" is not`},
		{"tree:\n  a: {role: R., when: {needs: '>= 3'}}\n", `">= 3" is no dependency with its versions`},
		{"tree:\n  .GIT/: {role: R.}\n", `where git keeps its own`},
		{"tree:\n  git~1/: {role: R.}\n", `where git keeps its own`},
		{"tree:\n  .git/hooks/: {role: R.}\n", `where git keeps its own`},
		{"tree:\n  '.git::$INDEX_ALLOCATION/': {role: R.}\n", `where git keeps its own`},
		{"tree:\n  a: {role: R., when: {}}\n", `when says what the project "needs", "has" or "lacks"`},
		{"tree:\n  ../x: {role: R.}\n", `"../x" leaves the folder`},
		{"tree:\n  /x: {role: R.}\n", `"/x" is an absolute path`},
		{"tree:\n  '': {role: R.}\n", `a name is empty`},
		{"tree:\n  a | : {role: R.}\n", `a name is empty`},
		{"tree:\n  <a: {role: R.}\n", `"<" is not closed by ">"`},
		{"tree:\n  a>: {role: R.}\n", `">" without "<"`},
		{"tree:\n  <a:snail>/: {role: R.}\n", `"snail" is no shape; the shapes are snake, kebab`},
		{"tree:\n  \"<a:=(>/\": {role: R.}\n", `<a:=(> holds an expression; name it under shapes, and its name here`},
		{"tree:\n  <A>/: {role: R.}\n", `<A> is no name to capture`},
		{"tree:\n  a**b: {role: R.}\n", `"**" goes in front as "**/"`},
		{"tree:\n  a | b/: {role: R.}\n", `the spellings of one entry are all folders or all files`},
		{"tree:\n  a: {role: R., tree: {b: {role: S.}}}\n", `"a" is a file; "tree" goes with a folder`},
		{"tree:\n  a/: {role: R., shows: x}\n", `"a/" is a folder; "shows", "lacks" and "starter" go with a file`},
		{"tree:\n  a.py: {role: R., lacks: x}\n", `"a.py": "lacks" goes with "shows"`},
		{"tree:\n  a.py: {role: R., shows: x, lacks: \"(\"}\n", `lacks is no regular expression`},
		{"tree:\n  a: {role: R., shows: '('}\n", `shows is no regular expression: missing closing )`},
		{"tree:\n  a: {role: R., git: maybe}\n", `"maybe" is no git; it has committed, ignored`},
		{"tree:\n  a/: {role: R., others: must}\n", `nothing unnamed can be wanted`},
		{"tree:\n  a: {role: R., at-least: x}\n", `at-least is a whole number from 0`},
		{"tree:\n  '*.a': {role: R., at-least: 3, at-most: 2}\n", `at-least is more than at-most`},
		{"tree:\n  '**/*.a': {role: R., need: should}\n", `what may lie at any depth cannot be wanted`},
		{"tree:\n  '*.a': {role: R., at-least: 3}\n", `at-least goes with need must or should`},
		{"tree:\n  <a>/: {role: R., unit: b}\n", `the unit "b" is not captured in the key`},
		{"tree:\n  '*.a': {role: R.}\n  <x>.a: {role: S.}\n", `team/x.yaml:6:3: "<x>.a" cannot be told apart from "*.a", on line 5 of team/x.yaml`},
		{"tree:\n  a | b: {role: R.}\n  b: {role: S.}\n", `"b" cannot be told apart from "a | b"`},
		{"tree:\n  a: {role: R., starter: gone}\n", `the starter "gone" is absent: team/x.yaml has no starters/gone.tmpl`},
		{"tree:\n  a: {role: R., starter: ../../secret}\n", `is no name of a file in starters/`},
		{"tree:\n  '*.a': {role: R., starter: there}\n", `"*.a" has a starter, but "*.a" leaves its name open`},
		{"tree:\n  <b>.a: {role: R., starter: there}\n", `nothing under "asks" asks for <b>`},
		{"tree:\n  a/: {role: R., not-here: {what: B, goes-to: c/}}\n", `"B" goes to "c/", which is no entry of the layout`},
		{"tree:\n  a/: {role: R., not-here: {what: B}}\n", `not-here says "what" and where it "goes-to"`},
		{"builds-on: [team/y]\n", `there is no layout "team/y" to build on; did you mean "team/x"?`},
		{"builds-on: team/x\n", `the layout builds on itself`},
		{"tree:\n  a: {drop: true}\n", `"a" cannot be dropped: nothing that this layout builds on has it here`},
		{"tree:\n  a: {role: R., was: b}\n", `"a" was to take over "b", but nothing`},
		{"signs: {needs: a}\n", `signs is a list`},
		{"signs: [{needs: a, has: b}]\n", `a sign is one of "needs", "has", "above" and "text"`},
		{"signs: [{text: {file: a}}]\n", `a text sign says "file" and "has"`},
		{"asks: {a: {question: Q}}\n", `the question "a" needs "question" and "default"`},
		{"asks: {a: {question: Q, default: A-b, shape: snake}}\n", `the default: a is written in snake case, as "a_b" is; "A-b" is not`},
		{"starter-marks: ['[[']\n", `starter-marks is a list of two texts`},
		{"base: perhaps\n", `base is true or false`},
		{"dicaxon: 2\n", `stands here twice`},
	} {
		_, err := Resolve(texts{"team/x": head + c.body}, "team/x")
		var e *source.Error
		if !errors.As(err, &e) || !strings.Contains(err.Error(), c.says) {
			t.Errorf("%q\n got  %v\n want %s", c.body, err, c.says)
			continue
		}
		if e.Line == 0 || e.Column == 0 || e.Shown == "" || strings.Contains(e.Message, "\n") {
			t.Errorf("%q: %+v has no place, shows no line, or is longer than one", c.body, e)
		}
	}
	for text, says := range map[string]string{
		"dicaxon: 2\nlayout: a/b\ntitle: T\n": "this program reads version 1",
		"dicaxon: 1\nlayout: ab\ntitle: T\n":  "write family/variant in small letters",
		"dicaxon: 1\nlayout: a/b\n":           `the layout has no "title"`,
		"":                                    "the file is empty",
		"a: 1\n---\nb: 2\n":                   "a second document",
		"{" + strings.Repeat("[", 500):        "nested too deeply",
		"a: " + strings.Repeat("x", 5000):     "a line longer than",
		strings.Repeat("# c\n", 400_000):      "larger than 1024 KiB",
		"a: &x 1\nb: *x\n":                    "anchors, aliases",
		"? [a]\n: 1\n":                        "found an invalid key",
	} {
		if _, err := Resolve(texts{"team/x": text}, "team/x"); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("%.40q: got %v, want %s", text, err, says)
		}
	}
}

func TestInheritance(t *testing.T) {
	base := `dicaxon: 1
layout: team/base
title: B
asks: {a: {question: Q, default: one}}
tree:
  keep: {need: must, role: Kept., starter: there}
  change: {need: must, role: Before.}
  gone: {role: Dropped.}
  old/: {role: Named before., tree: {in: {need: must, role: Inside.}}}
  deep/: {role: Deep., not-here: {what: W, goes-to: old/}, tree: {a: {role: A.}}}
`
	l := resolve(t, `builds-on: [team/base]
tree:
  change | changed: {need: may}
  gone: {drop: true}
  new/ | newer/: {was: old/, tree: {more: {role: More.}}}
  deep/: {tree: {a: {need: should}, b: {role: B.}}}
`, "team/base", base)
	var got []string
	for _, e := range l.Entries[1:] {
		got = append(got, fmt.Sprintf("%s %s %s %s", e.Path(), e.Need, e.Role, e.Layout))
	}
	want := []string{
		"keep must Kept. team/base", "change may Before. team/x",
		"new/ may Named before. team/x", "new/in must Inside. team/base", "new/more may More. team/x",
		"deep/ may Deep. team/x", "deep/a should A. team/x", "deep/b may B. team/x",
	}
	if !slices.Equal(got, want) {
		t.Errorf("got\n %s\nwant\n %s", strings.Join(got, "\n "), strings.Join(want, "\n "))
	}
	if l.Find("new/") == nil || l.Find("old/") != l.Find("new/") {
		t.Error("the name that a base knows a folder by is lost")
	}
	if home := l.Find("deep/").NotHere[0].Home; home != l.Find("new/") {
		t.Errorf("not-here leads to %v", home)
	}
	if l.Ask("a") == nil {
		t.Error("the question is not taken over")
	}
}

// TestStartersOfOthers: a starter lies beside the layout, or beside the first of those that it builds on.
func TestStartersOfOthers(t *testing.T) {
	l, err := Resolve(shelves{
		"team/x":    {"": head + "builds-on: [team/near, team/base]\nstarter-marks: ['[[', ']]']\ntree:\n  own: {role: R., starter: own}\n  near: {role: R., starter: both}\n  far: {role: R., starter: far}\n", "own": "1"},
		"team/near": {"": "dicaxon: 1\nlayout: team/near\ntitle: N\ntree: {}\n", "both": "2", "own": "0"},
		"team/base": {"": "dicaxon: 1\nlayout: team/base\ntitle: B\nstarter-marks: ['<<', '>>']\ntree: {}\n", "both": "0", "far": "3"},
	}, "team/x")
	if err != nil {
		t.Fatal(err)
	}
	for path, want := range map[string]string{"own": "1 [[", "near": "2 {{", "far": "3 <<"} {
		e := l.Find(path)
		text, err := e.StarterText()
		if got := text + " " + e.Marks()[0]; err != nil || got != want {
			t.Errorf("%s: %q, %v; want %q", path, got, err, want)
		}
	}
}

// shelves is a Source of layouts with their starters, by their names; the layout itself has none.
type shelves map[string]map[string]string

func (s shelves) Open(name string) (fs.FS, string, error) {
	folder := fstest.MapFS{}
	for starter, text := range s[name] {
		if starter == "" {
			folder[FileName] = &fstest.MapFile{Data: []byte(text)}
		} else {
			folder["starters/"+starter+".tmpl"] = &fstest.MapFile{Data: []byte(text)}
		}
	}
	return folder, name + ".yaml", nil
}

func (s shelves) Names() []string { return nil }

// TestAlikeGoesToItsOwn has what a copied tree does not hold go to the copy of its place.
func TestAlikeGoesToItsOwn(t *testing.T) {
	l := resolve(t, `tree:
  src/: {role: S., not-here: [{what: X, goes-to: src/test/}], tree: {main/: {role: M., not-here: [{what: T, goes-to: src/test/}, {what: D, goes-to: docs/}]}, test/: {role: T.}}}
  docs/: {role: D.}
  part/: {role: P., tree: {src/: {like: src/}}}
`, "", "")
	for at, want := range map[string][]string{"src/main/": {"src/test/", "docs/"}, "part/src/main/": {"part/src/test/", "docs/"}, "part/src/": {"part/src/test/"}} {
		if len(l.Find(at).NotHere) != len(want) {
			t.Errorf("%s: %v", at, l.Find(at).NotHere)
		}
		for i, nh := range l.Find(at).NotHere {
			if nh.Home != l.Find(want[i]) {
				t.Errorf("%s: %s goes to %s", at, nh.What, nh.Home.Path())
			}
		}
	}
}

func TestPatterns(t *testing.T) {
	bound := (*Env)(nil).Bind("source", "booking")
	for _, c := range []struct {
		pattern, name string
		env           *Env
		want          string // what is captured, "no" for no fit
	}{
		{"a.py", "a.py", nil, ""}, {"a.py", "b.py", nil, "no"},
		{"*.py", "a.py", nil, ""}, {"*.py", ".py", nil, ""}, {"*.py", "a.pyc", nil, "no"},
		{"?.py", "a.py", nil, ""}, {"?.py", "ab.py", nil, "no"}, {"?.py", "é.py", nil, ""},
		{"*a*b", "xaxb", nil, ""}, {"*a*b", "xbxa", nil, "no"},
		{"<x>", "any thing", nil, "x=any thing"}, {"<x:snake>", "any_thing", nil, "x=any_thing"}, {"<x:snake>", "Any", nil, "no"},
		{"<x:kebab>-<y:lower>", "a-b-c", nil, "y=c x=a-b"},
		{"stg_<source:snake>__<e:snake>.sql", "stg_a_b__c_d.sql", nil, "e=c_d source=a_b"},
		{"stg_<source:snake>__<e:snake>.sql", "stg_booking__c.sql", bound, "e=c source=booking"},
		{"stg_<source:snake>__<e:snake>.sql", "stg_other__c.sql", bound, "no"},
		{"<x>.<x>", "a.a", nil, "x=a"}, {"<x>.<x>", "a.b", nil, "no"},
	} {
		p, err := parsePattern(c.pattern)
		if err != nil {
			t.Fatal(err)
		}
		env, ok := p.Match(c.name, c.env)
		got := "no"
		if ok {
			var all []string
			for ; env != nil; env = env.Next {
				all = append(all, env.Name+"="+env.Value)
			}
			got = strings.Join(all, " ")
		}
		if got != c.want {
			t.Errorf("%s on %q: got %q, want %q", c.pattern, c.name, got, c.want)
		}
	}
}

// TestSpellingThatSaysMost: of two spellings that fit, the one with more of the name in it
// says what is captured; of texts that look alike, what a text lacks tells them apart.
func TestSpellingThatSaysMost(t *testing.T) {
	l := resolve(t, "tree:\n  <topic:camel>.js | <topic>Actions.js: {role: R., shows: 'type:', lacks: connect}\n")
	e := l.Root.Entries[0]
	for name, want := range map[string]string{"tidesActions.js": "tides", "tides.js": "tides"} {
		bound, preferred, ok := e.Match(name, nil)
		if got, _ := bound.Get("topic"); !ok || got != want || preferred != (name == "tides.js") {
			t.Errorf("%s: %q", name, got)
		}
	}
	if !e.ShownIn([]byte("type: 1")) || e.ShownIn([]byte("type: 1\nconnect()")) || e.ShownIn([]byte("connect()")) {
		t.Error("what is shown is not told by what it lacks")
	}
}

func FuzzResolve(f *testing.F) {
	f.Add(head + "tree:\n  <a:snake>/ | b/:\n    role: R.\n    tree: {\"**/*.x\": {role: S.}}\n")
	f.Add("dicaxon: 1\nlayout: a/b\ntitle: |\n  x\nbuilds-on: [a/b]\nasks: {a: {question: Q, default: 1}}\n")
	f.Add("? - - [{a: b}]\n")
	f.Fuzz(func(t *testing.T, text string) {
		late := time.AfterFunc(5*time.Second, func() { panic("reading takes too long: " + strconv.Quote(text)) })
		defer late.Stop()
		l, err := Resolve(texts{"team/x": text}, "team/x")
		if err == nil && l.Root.Scope == nil {
			t.Error("a layout without a scope")
		}
	})
}

func FuzzPattern(f *testing.F) {
	f.Add("stg_<a:snake>__<b>*.sql", "stg_x__y.sql")
	f.Fuzz(func(t *testing.T, pattern, name string) {
		if len(pattern) > 40 || len(name) > 40 {
			return
		}
		if p, err := parsePattern(pattern); err == nil {
			if _, ok := p.Match(name, nil); ok && p.Exact != "" && p.Exact != name {
				t.Errorf("%q fits %q", pattern, name)
			}
		}
	})
}

// TestRefusedAnswers says which names would stand in the way, and takes the folder's name
// where it does not.
func TestRefusedAnswers(t *testing.T) {
	ask := Ask{Name: "project", Shape: names.Snake, Default: "app", OfFolder: true, Refuses: []string{"keywords/python", "modules/python", "flask"}}
	for answer, want := range map[string]string{
		"class": `project cannot be "class", which is a keyword of Python`, "json": `project cannot be "json", which is a module that comes with Python`,
		"flask": `project cannot be "flask": something else is called so here`, "tides": "",
	} {
		got := ""
		if err := ask.Check(answer); err != nil {
			got = err.Error()
		}
		if got != want {
			t.Errorf("%s: %q, not %q", answer, got, want)
		}
	}
	for folder, want := range map[string]string{"tide-tables": "tide_tables", "json": "app", "2026": "app", "": "app"} {
		if got := ask.DefaultIn(folder); got != want {
			t.Errorf("in %q: %q, not %q", folder, got, want)
		}
	}
}

// TestDroppedQuestions leaves out what a layout that is built on asks.
func TestDroppedQuestions(t *testing.T) {
	l := resolve(t, "builds-on: [team/base]\nasks:\n  area: {drop: true}\ntree: {}\n",
		"team/base", "dicaxon: 1\nlayout: team/base\ntitle: B\nasks:\n  area: {question: Q, default: a}\n  project: {question: Q, default: a}\ntree: {}\n")
	if l.Ask("area") != nil || l.Ask("project") == nil {
		t.Errorf("%+v", l.Asks)
	}
}
