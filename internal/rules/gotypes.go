package rules

import (
	"fmt"
	"go/version"
	"path"
	"runtime"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang/golang"
)

var goTypes = &Rule{
	Name: "go-types", Kind: finding.Dangling, Level: finding.Error,
	Doc: "Types of Go have what is asked of them: fields and methods that code names, fields that a literal gives, methods that an interface asks of what is taken for it. The standard library's type checker reads them, without the modules of others: of a type that has anything of theirs only what is nearly there is told.",
	Example: `- rule: go-types
  files: "**/*.go"`,
	Options: []Option{{"files", Paths, true, "the files of Go that may be told of", true}},
	Run: func(c *Call) {
		packages := c.goSources()
		if len(packages) == 0 {
			return
		}
		told := slices.DeleteFunc(golang.Check(packages).Lacks(), func(l golang.Lack) bool { return c.lends(l.At) })
		for _, same := range grouped(told, causeOfLack) {
			c.tellLack(same)
		}
	},
}

// causeOfLack tells lacks apart by what is to be done about them.
func causeOfLack(l golang.Lack) string {
	cause := strings.Join([]string{l.DeclaredAt, l.Of, l.Name, l.By}, " ")
	if l.Twice {
		cause += l.At
	}
	return cause
}

// mostSource is how many bytes of Go are looked at: of a project with more, the compiler says the rest.
const mostSource = 16 << 20

// goSources gives the files of the packages of Go, by the paths that they are imported by; none of a project
// that has too many.
func (c *Call) goSources() map[string][]golang.Source {
	packages, called, size := map[string][]golang.Source{}, map[string]string{}, 0
	for _, f := range c.files("files") {
		folder := path.Dir(f.path)
		if path.Ext(f.path) != ".go" || f.node.Folder != nil || passedOver(f.path) {
			continue
		}
		at := foundOnce(called, folder, func() string {
			if c.isNewer(folder) {
				return ""
			}
			return c.goPath(folder)
		})
		if at != "" {
			text := c.textOf(f.path)
			if size += len(text); size > mostSource {
				return nil
			}
			packages[at] = append(packages[at], golang.Source{At: f.path, Text: text})
		}
	}
	return packages
}

// isNewer says whether the module around a folder asks for a newer version of the language than is known here.
func (c *Call) isNewer(folder string) bool {
	_, manifest := c.Graph.Look().Nearest(folder+"/x.go", "go.mod")
	asked := languageOf.Get().FindSubmatch(c.textOf(manifest))
	return asked != nil && version.Compare("go"+string(asked[1]), version.Lang(runtime.Version())) > 0
}

// languageOf finds the version of the language that a module asks for (go.dev/ref/mod, "go directive").
var languageOf = lazy.New(`(?m)^go[ \t]+(\d+\.\d+)`)

// tellLack tells of something that a type has not, with all who ask it.
func (c *Call) tellLack(all []golang.Lack) {
	l := all[0]
	if l.Twice {
		f := c.atName(l.At, l.Span, l.DeclaredAt, "it declares %s, which its package declares already", strings.TrimPrefix(l.Of+"."+l.Name, "."))
		f.Kind = finding.Disagrees
		return
	}
	near := nearOne(l.Name, l.Has)
	if l.Open && (names.Near(l.Name, near) != names.Typing || len(l.Name) < surelyMistyped) {
		return
	}
	if near == "" && (c.isWritten(path.Dir(l.DeclaredAt)) || c.leavesOutGo() || l.By != "" && c.isWritten(path.Dir(l.At))) {
		return // a program may write it
	}
	message := lackOf(l)
	if near != "" {
		message += "; did it mean " + near + "?"
	}
	f := c.atName(l.At, l.Span, l.DeclaredAt, "%s", message)
	for _, other := range all[1:] {
		f.AlsoAt(c.Top.Path() + other.At)
	}
	switch {
	case near == "":
	case l.By != "":
		f.Fix = c.wordsAs(l.At, near, l.Name)
	default:
		for _, one := range all {
			f.Fix = append(f.Fix, c.edit(one.At, one.Span, near))
		}
	}
}

// lackOf says what is lacking.
func lackOf(l golang.Lack) string {
	switch {
	case l.By != "":
		return fmt.Sprintf("%s has no %s, which %s asks of it", l.Of, l.Name, l.By)
	case l.Hidden && l.Of == "":
		return fmt.Sprintf("it asks for %s, which only the package of that type sees", l.Name)
	case l.Hidden:
		return fmt.Sprintf("it gives %s to %s, which only the package of that type sees", l.Name, l.Of)
	}
	return fmt.Sprintf("it asks %s of %s, which has no such", l.Name, l.Of)
}
