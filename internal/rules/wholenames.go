package rules

import (
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var wholeNames = &Rule{
	Name: "whole-names", Kind: finding.Dangling, Level: finding.Warning, Always: true,
	Doc: "Where Node.js itself runs the modules of a package, an import names a file with its ending: nothing is tried (Node.js, \"Mandatory file extensions\").",
	Example: `- rule: whole-names
  except: "web/**"`,
	Options: []Option{{"except", Paths, false, "files that something else loads", true}},
	Run:     runWholeNames,
}

// A shortened is an import that leaves out a part of the name of its file.
type shortened struct {
	from string
	ref  refs.Ref
	to   string
}

func runWholeNames(c *Call) {
	parts, whole, modules := map[string][]shortened{}, map[string]int{}, map[string]bool{}
	c.Graph.Look().Each(func(at string) {
		if ending := path.Ext(at); ending != ".js" && ending != ".mjs" || c.lends(at) || c.fits("except", at) {
			return
		}
		_, manifest := c.Graph.Look().Nearest(at, "package.json")
		if _, asked := modules[manifest]; !asked {
			modules[manifest] = manifest != "" && c.runsModules(manifest)
		}
		if !modules[manifest] {
			return
		}
		for _, e := range c.Graph.From(at) {
			switch r := e.Ref; {
			case r.Kind != refs.Import || !strings.HasPrefix(r.Name, ".") || len(e.To) != 1 || strings.ContainsAny(r.Name, "?#!"):
			case path.Join(path.Dir(at), r.Name) == e.To[0] && !c.isFolder(e.To[0]):
				whole[manifest]++
			default:
				parts[manifest] = append(parts[manifest], shortened{at, r, e.To[0]})
			}
		}
	})
	for _, manifest := range slices.Sorted(maps.Keys(parts)) {
		all := parts[manifest]
		if whole[manifest] < 3 || whole[manifest] < 2*len(all) {
			continue // something loads them that tries endings
		}
		told := map[string]bool{}
		for _, p := range all {
			c.tellPart(p, told)
		}
	}
}

// tellPart tells of an import, once in a file, and puts it right where the file is known.
func (c *Call) tellPart(p shortened, told map[string]bool) {
	to := p.to
	if index := path.Join(to, "index.js"); c.isFolder(to) && c.node(index) != nil {
		to = index
	}
	key := p.from + "\x00" + p.ref.Name
	if told[key] || c.isFolder(to) {
		return
	}
	rest := strings.TrimPrefix(to, path.Join(path.Dir(p.from), p.ref.Name))
	written := strings.TrimSuffix(p.ref.Name, "/") + rest
	f := c.atRef(p.from, p.ref, &finding.Place{Path: to}, "it imports %s, which Node.js finds only by its whole name, %s", p.ref.Name, written)
	f.Fix = []edit.Edit{c.edit(p.from, p.ref.Span, written)}
	told[key] = true
}

// loaders are what loads modules in another way than Node.js does, by their names in a manifest.
var loaders = lazy.New(`(?:ependencies\.(?:@babel/|@swc/|@vitejs/|@rspack/|@parcel/|@sveltejs/|@angular/|@nuxt/|@esbuild/|esm$|vite$|webpack$|rollup$|esbuild$|parcel|next$|nuxt$|typescript$|tsx$|ts-node$|tsup$|tsdown$|jest$|vitest$|metro|react-scripts$|bun|snowpack$|astro$|svelte$|browserify$|electron-vite$|microbundle$|unbuild$|babel-|jspm|deno))`)

// runsModules says whether a manifest makes its files modules that nothing but Node.js loads.
func (c *Call) runsModules(manifest string) bool {
	said := c.refsOf(manifest)
	kind := said.Get("type")
	return kind != nil && kind.Value == "module" && !slices.ContainsFunc(said.Of(refs.Key), func(k refs.Ref) bool {
		return loaders.MatchString(k.Name) || strings.HasPrefix(k.Name, "scripts.") && (strings.Contains(k.Value, "specifier-resolution") || strings.Contains(k.Value, "--loader") || strings.Contains(k.Value, "--import"))
	})
}
