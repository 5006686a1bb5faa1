package identify

import (
	"context"
	"strings"

	"dicaxon/internal/layout"
	"dicaxon/internal/placement"
	"dicaxon/internal/tree"
)

// Roots returns the projects of the repository, in the order of their paths. The
// repository's own folder is always among them, known or not.
func (id *Identifier) Roots(ctx context.Context, r *tree.Repository) ([]Root, error) {
	id.repository = r
	top, err := id.look(r.Top)
	if err != nil {
		return nil, err
	}
	found := []Root{top}
	watched, holders := id.toLookAt(r)
	for _, f := range watched {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if f == r.Top || aside(f) {
			continue
		}
		root, err := id.look(f)
		if err != nil {
			return nil, err
		}
		if root.Best != nil && !within(f, root.Best, found, holders[f]) {
			found = append(found, root)
		}
	}
	return found, nil
}

// toLookAt gives the folders that may hold a project, in the order of their paths: those with a file
// that one is known by, and holders, which have but a folder that all of a layout have, by a pattern.
func (id *Identifier) toLookAt(r *tree.Repository) (all []*tree.Folder, holders map[*tree.Folder]bool) {
	holders = map[*tree.Folder]bool{}
	for _, f := range r.Folders {
		if f.Parent != nil && id.folders.has(f.Name) {
			holders[f.Parent] = true
		}
	}
	if len(holders) == 0 {
		return r.Watched, nil
	}
	for _, f := range r.Watched {
		holders[f] = false
	}
	for _, f := range r.Folders {
		if _, look := holders[f]; look {
			all = append(all, f)
		}
	}
	return all, holders
}

// asides are folders whose projects are no part of the work: what tests and
// examples need, what others wrote, and what a build made.
var asides = map[string]bool{
	"test": true, "tests": true, "__tests__": true, "spec": true, "testdata": true, "test-data": true, "fixtures": true, "__fixtures__": true, "fixture": true, "e2e": true,
	"examples": true, "example": true, "_examples": true, "samples": true, "sample": true, "demo": true, "demos": true, "templates": true, "template": true, "benchmarks": true, "benchmark": true,
	"vendor": true, "third_party": true, "third-party": true, "node_modules": true, "bower_components": true, "dist": true, "build": true, "out": true, "target": true, "esm": true, "cjs": true, "docs": true, "packaging": true, "contrib": true,
}

// aside says whether a folder lies in one whose projects do not count.
func aside(f *tree.Folder) bool {
	for ; f.Parent != nil; f = f.Parent {
		name := strings.ToLower(f.Name)
		last := name[strings.LastIndexByte(name, '-')+1:] // such as harbour-samples
		// A source set of Gradle, or what Maven's plug-ins are tried on.
		ofTests := f.Parent.Name == "src" && (name == "it" || strings.HasSuffix(f.Name, "Test"))
		if asides[name] || asides[last] && strings.HasSuffix(last, "s") || ofTests {
			return true
		}
	}
	return false
}

// within says whether the folder is only a part of a project found around it. A holder is where the
// layout around has any place for it, such as the native side of an application.
func within(f *tree.Folder, best *Candidate, found []Root, holder bool) bool {
	for _, p := range found {
		if p.Best == nil {
			continue
		}
		for up := f.Parent; up != nil; up = up.Parent {
			if up != p.Folder {
				continue
			}
			// Where the layout around it has a place for the folder, such as a
			// crate in a workspace, it is no project of its own.
			place, _ := p.Best.placement.Folder(f)
			same := layout.Family(p.Best.Layout) == layout.Family(best.Layout)
			placed := place.State == placement.Placed
			if placed && (holder || best.general || best.wanted < enoughOfAMember) || same && (placed || p.Best.Score >= best.Score) {
				return true
			}
		}
	}
	return false
}
