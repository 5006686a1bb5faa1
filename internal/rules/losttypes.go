package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// A lostType is a type of a package that several of its files use and nothing declares.
type lostType struct {
	of, name string
	uses     []use
}

// tellLostTypes tells of types that several files of one package of Kotlin use without an import, and that nothing
// declares: a file finds such a type in its own package alone (Kotlin specification, "Scopes and identifiers").
// Of one file alone a type that its class inherits might be meant, and a program may make others, so that it
// is a note.
func (g *givers) tellLostTypes() {
	if g.made || g.makesByBuild() || len(g.endings()[".groovy"]) > 0 {
		return
	}
	var all []*lostType
	known := map[[2]string]*lostType{}
	g.Graph.Look().Each(func(at string) {
		said := g.Graph.Noted(at)
		space := said.Package()
		if path.Ext(at) != ".kt" || space == nil || g.lends(at) || said.Broken != "" || slices.ContainsFunc(said.Of(refs.Import), importsWhole) {
			return
		}
		for _, u := range firsts(said.Uses.Unbound) {
			if len(u.Name) < 4 || u.Name == "BuildConfig" || strings.ToUpper(u.Name) == u.Name || len(g.typesOf()[u.Name]) > 0 || isGiven(at, u.Name) || oftenNested()[u.Name] || taken(said, u.Name) {
				continue
			}
			key := [2]string{space.Name, u.Name}
			if known[key] == nil {
				known[key] = &lostType{of: space.Name, name: u.Name}
				all = append(all, known[key])
			}
			known[key].uses = append(known[key].uses, use{at, u.Span})
		}
	})
	for _, l := range all {
		if len(l.uses) < 2 || g.toldAt(l.uses[0].at, l.uses[0].span) || g.bindsAnywhere(l.name, func(at string) bool { return kin(path.Ext(at), ".java") }) {
			continue
		}
		f := g.atName(l.uses[0].at, l.uses[0].span, "", "it uses %s, which nothing in %s declares and nothing imports", l.name, l.of)
		f.Level, f.About = finding.Note, l.name
		for _, u := range l.uses[1:] {
			f.AlsoAt(g.Top.Path() + u.at)
		}
	}
}

// makesTypes is a build in which a program makes types of those that people write.
var makesTypes = lazy.New(`\b(?:ksp|kapt|annotationProcessor|sqldelight|protobuf|apollo|openapi|jooq|room|wire)\b`)

// makesByBuild says whether a build of Gradle has such a program.
func (g *givers) makesByBuild() bool {
	return slices.ContainsFunc(g.everything(), func(f file) bool {
		name := path.Base(f.path)
		return (strings.HasPrefix(name, "build.gradle") || name == "libs.versions.toml") && makesTypes.Match(g.textOf(f.path))
	})
}

// importsWhole says whether an import takes all that a package or a class has.
func importsWhole(r refs.Ref) bool { return r.Value == "*" || strings.HasSuffix(r.Name, "*") }
