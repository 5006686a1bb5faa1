package realign

import (
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
)

// divisions divide packages of Go.
var divisions = []following{
	{"Go: a program in one folder becomes packages", "main.go cmd/ferry/main.go tides.go internal/tides/tides.go tides_test.go internal/tides/tides_test.go berths.go internal/berths/berths.go", `
-- go.mod --
module example.com/ferry
-- main.go --
package main

import "fmt"

func main() {
	tides := table()
	fmt.Println(tides, berths(table()))
}
-- Makefile --
build:
	go build -o bin/ferry -trimpath .
	go vet ./...
-- .github/workflows/ci.yml --
run: go run . --check && go test ./...
-- tides.go --
package main

// table is what the sea does.
func table() []int { return low }

var low = []int{1, 2}
-- tides_test.go --
package main

import "testing"

func TestTable(t *testing.T) {
	if len(table()) != len(low) {
		t.Fail()
	}
}
-- berths.go --
package main

type berth struct{ Tides []int }

func berths(tides []int) berth {
	if len(tides) == 0 {
		return berth{Tides: low}
	}
	return berth{tides}
}
`, `
-- Makefile --
build:
	go build -o bin/ferry -trimpath ./cmd/ferry
	go vet ./...
-- .github/workflows/ci.yml --
run: go run ./cmd/ferry --check && go test ./...
-- cmd/ferry/main.go --
package main

import (
	"fmt"

	"example.com/ferry/internal/berths"
	tidespkg "example.com/ferry/internal/tides"
)

func main() {
	tides := tidespkg.Table()
	fmt.Println(tides, berths.Berths(tidespkg.Table()))
}
-- internal/tides/tides.go --
package tides

// Table is what the sea does.
func Table() []int { return Low }

var Low = []int{1, 2}
-- internal/tides/tides_test.go --
package tides

import "testing"

func TestTable(t *testing.T) {
	if len(Table()) != len(Low) {
		t.Fail()
	}
}
-- internal/berths/berths.go --
package berths

import tidespkg "example.com/ferry/internal/tides"

type berth struct{ Tides []int }

func Berths(tides []int) berth {
	if len(tides) == 0 {
		return berth{Tides: tidespkg.Low}
	}
	return berth{tides}
}
`},
	{"Go: fields and methods that another part needs are seen from there", "berth.go berth/berth.go", `
-- go.mod --
module example.com/ferry
-- main.go --
package main

func main() {
	b := berth{number: 1, urlOf: "x"}
	println(b.free(), b.number, (&b).id())
}
-- berth.go --
package main

type berth struct {
	number int
	urlOf  string
	depth  int
}

// free says whether nothing lies there.
func (b berth) free() bool { return b.number > b.depth }

func (b *berth) id() string { return b.urlOf }

func (b berth) alone() {}
`, `
-- main.go --
package main

import "example.com/ferry/berth"

func main() {
	b := berth.Berth{Number: 1, URLOf: "x"}
	println(b.Free(), b.Number, (&b).ID())
}
-- berth/berth.go --
package berth

type Berth struct {
	Number int
	URLOf  string
	depth  int
}

// Free says whether nothing lies there.
func (b Berth) Free() bool { return b.Number > b.depth }

func (b *Berth) ID() string { return b.URLOf }

func (b Berth) alone() {}
`},
	{"Go: a part leaves a package that others use", "port/tides.go port/tide/tides.go", `
-- go.mod --
module example.com/ferry
-- port/port.go --
package port

import (
	"fmt"

	"example.com/ferry/sail"
)

// Open says when.
func Open() string { return fmt.Sprint(At(1), sail.Set) }
-- port/tides.go --
package port

// At gives the tide.
func At(hour int) int { return hour }

// Day is how many hours there are.
const Day = 24
-- port/port_test.go --
package port_test

import (
	"testing"

	"example.com/ferry/port"
)

func TestOpen(t *testing.T) {
	if port.Open() == "" || port.At(port.Day) != 24 {
		t.Fail()
	}
}
-- sail/sail.go --
package sail

const Set = 1
-- cmd/now/main.go --
package main

import p "example.com/ferry/port"

func main() { println(p.At(3)) }
`, `
-- port/port.go --
package port

import (
	"fmt"

	"example.com/ferry/port/tide"
	"example.com/ferry/sail"
)

// Open says when.
func Open() string { return fmt.Sprint(tide.At(1), sail.Set) }
-- port/tide/tides.go --
package tide

// At gives the tide.
func At(hour int) int { return hour }

// Day is how many hours there are.
const Day = 24
-- port/port_test.go --
package port_test

import (
	"testing"

	"example.com/ferry/port"
	"example.com/ferry/port/tide"
)

func TestOpen(t *testing.T) {
	if port.Open() == "" || tide.At(tide.Day) != 24 {
		t.Fail()
	}
}
-- cmd/now/main.go --
package main

import "example.com/ferry/port/tide"

func main() { println(tide.At(3)) }
`},
}

// TestColumns: what stands in columns, and the order of imports, stay as gofmt has them.
func TestColumns(t *testing.T) {
	tree := Texts{}
	for _, f := range txtar.Parse([]byte(`
-- go.mod --
module example.com/ferry
-- port/port.go --
package port

// Tide is one tide.
type Tide struct{}

// A Card shows one.
type Card struct {
	At   Tide   // when
	Name string // which
}
-- port/tide.go --
package port

// Low is when it is low.
type Low struct{}

// Three are three.
type Three struct {
	First  Low ` + "`json:\"a\"`" + `
	Second int ` + "`json:\"b\"`" + `
}
-- zone/zone.go --
package zone

import (
	"example.com/ferry/area"
	"example.com/ferry/yard"
)

var All = area.All + yard.All
-- area/area.go --
package area

const All = 1
-- yard/yard.go --
package yard

const All = 1
-- port/low.go --
package port

// Both are two.
type Both struct {
	One Three // first
	Two int   // second
}
`)).Files {
		tree[f.Name] = f.Data
	}
	for moves, want := range map[string]string{
		"port/tide.go port/tide/tide.go": "",
		"port/port.go port/card/port.go": "",
		"area/ zone/area/":               "\"example.com/ferry/yard\"\n\t\"example.com/ferry/zone/area\"",
	} {
		p := &changes.Plan{Moves: movesOf(moves)}
		edits, remarks := Follow(refs.NewGraph(tree), tree, nil, p)
		if len(remarks) > 0 {
			t.Errorf("%s: %v", moves, remarks)
		}
		all := ""
		for at, of := range edit.ByFile(edits) {
			made, err := edit.Apply(tree[at], of)
			if err != nil || !formatted(made) {
				t.Errorf("%s: %s %v\n%s", moves, at, err, made)
			}
			all += string(made)
		}
		if !strings.Contains(all, want) {
			t.Errorf("%s:\n%s", moves, all)
		}
	}
}
