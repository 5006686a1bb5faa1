package rules

import (
	"path"
	"slices"
	"strings"
)

// compiledFrom gives the endings of sources from which what a page loads may be made.
var compiledFrom = map[string][]string{".js": {".ts", ".tsx", ".jsx", ".mts"}, ".css": {".scss", ".sass", ".less", ".styl"}}

// buildsPages says whether pages of the project stand beside the sources of what they load: in one of
// them several things are absent, and a build makes one of those of another beside it.
func (p *project) buildsPages() bool {
	if p.pagesBuilt == nil {
		built := false
		p.Graph.Look().Each(func(at string) {
			built = built || strings.HasSuffix(at, ".html") && p.isOfBuild(at)
		})
		p.pagesBuilt = &built
	}
	return *p.pagesBuilt
}

func (p *project) isOfBuild(at string) bool {
	absent, made := 0, false
	for _, e := range p.Graph.From(at) {
		if !e.Broken() || len(e.Sought) == 0 {
			continue
		}
		absent++
		made = made || slices.ContainsFunc(compiledFrom[path.Ext(e.Sought[0])], func(ending string) bool {
			return p.Graph.Look().IsFile(strings.TrimSuffix(e.Sought[0], path.Ext(e.Sought[0])) + ending)
		})
	}
	return made && absent > 1
}

// loadsOwn says whether a page loads more of the project than is not there, as one that runs its tests.
func (p *project) loadsOwn(at string) bool {
	there, absent := 0, 0
	for _, e := range p.Graph.From(at) {
		if len(e.To) > 0 {
			there++
		} else if e.Broken() {
			absent++
		}
	}
	return there > 1 && there > absent
}
