package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/tree"
)

// A compiler is what compiler settings say of where sources are read and results
// written. Paths are below the project.
type compiler struct {
	out   string
	roots []string // where sources may lie, whose paths below them are kept
	// beside says that results come beside their sources, among what others write.
	beside bool
}

// bundlers are programs that write files where the compiler's settings do not say.
var bundlers = lazy.New(`\b(?:vite|webpack|rollup|esbuild|tsup|tsdown|parcel|ncc|microbundle|unbuild|bunchee|swc|babel|bun build|bob|rslib|rspack|ng|nest|next|nuxt|preconstruct|tshy|pkgroll|wireit|turbo|nx|lerna|gulp|grunt|make)\b`)

// compilersFor gives the compilers of the package around a file, and whether they
// alone write what is not there.
func (c *Call) compilersFor(from string) (all []compiler, alone bool) {
	look := c.Graph.Look()
	home, manifest := look.Nearest(from, "package.json")
	if manifest == "" {
		return nil, false
	}
	of := lang.Once(look, "compilers "+manifest, func() compilers { return c.compilersOf(home, manifest) })
	return of.all, of.alone
}

// compilers are those of one package.
type compilers struct {
	all   []compiler
	alone bool // nothing else writes files
}

func (c *Call) compilersOf(home, manifest string) (of compilers) {
	for _, name := range c.Graph.Look().Names(home) {
		if !strings.HasPrefix(name, "tsconfig") || !strings.HasSuffix(name, ".json") {
			continue
		}
		at := path.Join(home, name)
		beside := c.inherited(at, "compilerOptions.outDir", 0) == ""
		if noEmit := c.refsOf(at).Get("compilerOptions.noEmit"); beside && (noEmit == nil || noEmit.Value != "true") {
			of.all = append(of.all, compiler{out: home, roots: []string{home}, beside: true})
		}
		for _, key := range []string{"compilerOptions.outDir", "compilerOptions.declarationDir"} {
			out := c.inherited(at, key, 0)
			if out == "" {
				continue
			}
			one := compiler{out: out, roots: []string{home, path.Join(home, "src"), path.Join(home, "lib")}}
			if root := c.inherited(at, "compilerOptions.rootDir", 0); root != "" {
				one.roots = []string{root}
			}
			of.all = append(of.all, one)
		}
	}
	for _, k := range c.refsOf(manifest).Of(refs.Key) {
		if strings.HasPrefix(k.Name, "scripts.") {
			if bundlers.MatchString(k.Value) {
				of.alone = false
				return of
			}
			of.alone = of.alone || strings.Contains(k.Value, "tsc")
		}
	}
	of.alone = of.alone && slices.ContainsFunc(of.all, func(one compiler) bool { return !one.beside })
	return of
}

// inherited gives a path that compiler settings say, or those that they extend: it starts
// from the file that says it.
func (c *Call) inherited(at, key string, deep int) string {
	const deepest = 10
	f := c.refsOf(at)
	if said := f.Get(key); said != nil && said.Value != "" {
		if strings.Contains(said.Value, "$") {
			return ""
		}
		return path.Join(path.Dir(at), said.Value)
	}
	for _, base := range f.Of(refs.Key) {
		if base.Name != "extends" || !strings.HasPrefix(base.Value, ".") || deep > deepest {
			continue
		}
		for _, ending := range []string{"", ".json"} {
			if from := path.Join(path.Dir(at), base.Value) + ending; c.node(from) != nil && c.node(from).Folder == nil {
				if said := c.inherited(from, key, deep+1); said != "" {
					return said
				}
			}
		}
	}
	return ""
}

// sourceEndings says of what sources a compiled file may be made.
var sourceEndings = []struct {
	ending string
	of     []string
}{
	{".d.ts", []string{".ts", ".tsx", ".d.ts", ".js"}}, {".d.mts", []string{".mts"}}, {".d.cts", []string{".cts"}}, {".js.map", []string{".ts", ".tsx", ".js", ".jsx"}},
	{".js", []string{".ts", ".tsx", ".js", ".jsx"}}, {".mjs", []string{".mts", ".mjs"}}, {".cjs", []string{".cts", ".cjs"}}, {".jsx", []string{".tsx", ".jsx"}}, {".json", []string{".json"}},
}

// writes gives the part of a path that lies below what a compiler writes to.
func (one compiler) writes(at string) (below string, ok bool) {
	if one.out == "." {
		return at, true
	}
	return strings.CutPrefix(at, one.out+"/")
}

// compiles says whether a compiler of the package around a file writes a path:
// written, where its source is there; known, where it would have to be.
func (c *Call) compiles(from, at string) (written, known bool) {
	all, alone := c.compilersFor(from)
	for _, one := range all {
		below, ok := one.writes(at)
		if !ok && at != one.out {
			continue
		}
		known = known || alone && !one.beside
		if !ok || slices.ContainsFunc(one.roots, func(root string) bool { return c.isSourceOf(path.Join(root, below)) }) {
			return true, true
		}
	}
	if !known && alone {
		top, _, _ := strings.Cut(at, "/")
		known = top != "node_modules" && (slices.Contains(outputs, top) && c.node(top) == nil || strings.HasSuffix(at, ".js") && c.Repository.Ignores(c.Top.Path()+at))
	}
	return false, known
}

// looked lists where something that a file names was looked for: at the path, and at those
// of what it may be compiled of.
func (c *Call) looked(from, at string) []string {
	all := []string{c.Top.Path() + at}
	for _, source := range c.sourcesOf(from, at) {
		all = append(all, c.Top.Path()+source)
	}
	return all
}

// sourcesOf lists the paths at which the source of a compiled file may lie.
func (c *Call) sourcesOf(from, at string) []string {
	var all []string
	compilers, _ := c.compilersFor(from)
	for _, one := range compilers {
		below, ok := one.writes(at)
		if ok && path.Ext(below) == "" { // a folder
			for _, root := range one.roots {
				all = append(all, path.Join(root, below))
			}
		}
		for _, s := range sourceEndings {
			stem, fits := strings.CutSuffix(below, s.ending)
			if !ok || !fits {
				continue
			}
			for _, root := range one.roots {
				for _, ending := range s.of {
					all = append(all, path.Join(root, stem)+ending)
				}
			}
		}
	}
	return all
}

// isSourceOf says whether there is what a path below the results would be made of.
func (c *Call) isSourceOf(at string) bool {
	if n := c.node(at); n != nil && (n.Folder != nil || path.Ext(at) == ".json") {
		return true
	}
	for _, s := range sourceEndings {
		if stem, ok := strings.CutSuffix(at, s.ending); ok {
			return slices.ContainsFunc(s.of, func(ending string) bool { return c.node(stem+ending) != nil })
		}
	}
	if path.Ext(at) != "" && path.Ext(at) != "."+path.Base(at) && !strings.HasSuffix(path.Base(at), ".test") && !strings.HasSuffix(path.Base(at), ".spec") {
		return false
	}
	return slices.ContainsFunc([]string{".ts", ".tsx", ".js", ".mts", ".cts", "/index.ts", "/index.js"}, func(ending string) bool { return c.node(at+ending) != nil })
}

var compiledOutput = &Rule{
	Name: "compiled-output", Kind: finding.Exposed, Level: finding.Warning, Always: true,
	Doc: "What the compiler's settings say that it writes is named by an ignore file, where the sources that it was made of are kept.",
	Example: `- rule: compiled-output
  level: note`,
	Run: func(c *Call) {
		if n := c.node(".gitignore"); n == nil {
			return // nobody says what version control is to leave out
		}
		told := map[string]bool{}
		for _, f := range c.everything() {
			if path.Base(f.path) != "package.json" || inSample(f.path) {
				continue
			}
			all, _ := c.compilersFor(f.path)
			for _, one := range all {
				n := c.node(one.out)
				if n == nil || n.Folder == nil || n.Ignored || told[one.out] || slices.Contains(one.roots, one.out) || slices.Contains(outputs, path.Base(one.out)) {
					continue
				}
				if at := c.compiledIn(one.out, n.Folder, one.roots); at != "" {
					told[one.out] = true
					c.report(one.out+"/", 0, 0, &finding.Place{Path: at}, "the compiler writes it, and no ignore file names it; %s is made of a source that is kept", at)
				}
			}
		}
	},
}

// compiledIn gives a file below a folder of results whose source is there, "" where
// none is.
func (c *Call) compiledIn(out string, in *tree.Folder, roots []string) (at string) {
	c.Written(in, func(f string, _ *tree.Node) {
		below, ok := strings.CutPrefix(f, out+"/")
		if at == "" && ok && strings.HasSuffix(f, ".js") && slices.ContainsFunc(roots, func(root string) bool {
			return c.isSourceOf(path.Join(root, below)) && c.node(path.Join(root, below)) == nil
		}) {
			at = f
		}
	})
	return at
}
