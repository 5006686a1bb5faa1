package app_test

import (
	"go/scanner"
	"go/token"
	"maps"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// goModule is a module that asks for nothing but the standard library, so that the compiler can be asked about it
// anywhere.
var goModule = map[string]string{
	"go.mod":     "module gannet.example/line\n\ngo 1.26\n",
	"README.md":  "# Line\n\nTides and berths of the line.\n",
	".gitignore": "/bin/\n",
	"tide/tide.go": `// Package tide knows the water.
package tide

import (
	"fmt"
	"time"
)

// Tide is the water at one time.
type Tide struct {
	At     time.Time
	Metres float64
}

// High says whether a ferry can leave.
func (t *Tide) High() bool { return t.Metres > 2 }

// String shows it.
func (t *Tide) String() string { return fmt.Sprintf("%s %.1f", t.At.Format("15:04"), height(t.Metres)) }

func height(m float64) float64 { return m }
`,
	"tide/tide_test.go": `package tide

import "testing"

func TestHeight(t *testing.T) {
	if one := (&Tide{Metres: 3}); !one.High() || height(one.Metres) != 3 {
		t.Fatal(one)
	}
}
`,
	"berth/berth.go": `// Package berth keeps berths.
package berth

import (
	"errors"

	"gannet.example/line/tide"
)

// Store keeps berths.
type Store interface {
	Free(name string) error
	Close() error
}

// Book is a store in memory.
type Book struct{ taken map[string]*tide.Tide }

var _ Store = (*Book)(nil)

// Free frees one.
func (b *Book) Free(name string) error {
	if b.taken[name] == nil {
		return errors.New("it is free")
	}
	delete(b.taken, name)
	return nil
}

// Close ends it.
func (b *Book) Close() error { return nil }

// Late lists those that wait for water.
func (b *Book) Late() (names []string) {
	for name, water := range b.taken {
		if !water.High() {
			names = append(names, name)
		}
	}
	return names
}
`,
}

// refuses says whether the compiler, or what tests are vetted with, refuses a module.
func refuses(t *testing.T, root string) bool {
	t.Helper()
	vet := exec.CommandContext(t.Context(), "go", "vet", "./...")
	vet.Dir = root
	vet.Env = append(vet.Environ(), "GOFLAGS=-mod=mod", "GOTOOLCHAIN=local", "GOWORK=off")
	return vet.Run() != nil
}

// toldAsWrong gives what is told of a module as wrong.
func toldAsWrong(t *testing.T, root string) (all []string) {
	t.Helper()
	r, err := app.Check(t.Context(), root, app.Options{})
	if err != nil {
		t.Fatal(err)
	}
	for _, p := range r.Projects {
		for _, f := range p.Findings {
			if f.Level == finding.Error {
				all = append(all, f.Path+" "+f.Message)
			}
		}
	}
	return all
}

// TestGoIsPutRight holds that what the compiler refuses is told, and that realign mends it so that the compiler takes it.
func TestGoIsPutRight(t *testing.T) {
	t.Parallel()
	root := treetest.Make(t, goModule)
	if told := toldAsWrong(t, root); len(told) > 0 || refuses(t, root) {
		t.Fatalf("of the right module it says %q", told)
	}
	for _, c := range []struct{ what, at, right, wrong string }{
		{"a field that is mistyped", "tide/tide.go", "height(t.Metres)", "height(t.Metrse)"},
		{"a field of a literal", "tide/tide_test.go", "Tide{Metres: 3}", "Tide{Metre: 3}"},
		{"a method that is called otherwise", "berth/berth.go", "water.High()", "water.Hihg()"},
		{"a method that an interface asks", "berth/berth.go", "Close() error { return", "Colse() error { return"},
		{"an import that is missing", "berth/berth.go", "\t\"errors\"\n", ""},
		{"an import that nothing uses", "tide/tide.go", "\t\"time\"\n", "\t\"time\"\n\t\"strconv\"\n"},
		{"a test that says it is outside", "tide/tide_test.go", "package tide\n", "package tide_test\n"},
	} {
		treetest.Add(t, root, map[string]string{c.at: strings.Replace(goModule[c.at], c.right, c.wrong, 1)})
		if told := toldAsWrong(t, root); len(told) == 0 || !refuses(t, root) {
			t.Errorf("%s: told %q", c.what, told)
		}
		if now := realigned(t, root)[c.at]; refuses(t, root) {
			t.Errorf("%s: it becomes\n%s", c.what, now)
		}
		treetest.Restore(t, root, goModule)
	}
}

// TestTheCompilerAgrees holds that what is told of Go as an error, the compiler refuses: each name of the module is
// cut short in its turn.
func TestTheCompilerAgrees(t *testing.T) {
	t.Parallel()
	root := treetest.Make(t, goModule)
	told := 0
	for _, at := range slices.Sorted(maps.Keys(goModule)) {
		if filepath.Ext(at) != ".go" {
			continue
		}
		for i, place := range namesOf([]byte(goModule[at])) {
			if i%2 > 0 {
				continue // every other one says as much
			}
			text := goModule[at]
			treetest.Add(t, root, map[string]string{at: text[:place-1] + text[place:]})
			if wrong := toldAsWrong(t, root); len(wrong) > 0 {
				if told++; !refuses(t, root) {
					t.Errorf("%s without its letter %d: it says %q, and the compiler takes it", at, place, wrong)
				}
			}
			treetest.Restore(t, root, goModule)
		}
	}
	if told < 15 {
		t.Errorf("only %d slips are told", told)
	}
}

// namesOf gives where the names of a text of Go end that have more than three letters.
func namesOf(text []byte) (ends []int) {
	var s scanner.Scanner
	set := token.NewFileSet()
	file := set.AddFile("", set.Base(), len(text))
	s.Init(file, text, nil, 0)
	for {
		pos, kind, name := s.Scan()
		if kind == token.EOF {
			return ends
		}
		if kind == token.IDENT && len(name) > 3 {
			ends = append(ends, file.Offset(pos)+len(name))
		}
	}
}
