package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var importEndings = &Rule{
	Name: "import-endings", Kind: finding.Dangling, Level: finding.Error, Always: true,
	Doc: "An import of TypeScript names its file with the ending that the compiler asks for, where the settings say how modules are looked up.",
	Example: `- rule: import-endings
  except: "scripts/**"`,
	Options: []Option{{"except", Paths, false, "files that no compiler reads", true}},
	Run:     runImportEndings,
}

var (
	asNodeDoes = lazy.New(`(?i)"module(?:Resolution)?"\s*:\s*"node(?:next|16|18|20)"`)
	ofModules  = lazy.New(`"type"\s*:\s*"module"`)
	ofAnother  = lazy.New(`"extends"\s*:`)
	takesTS    = lazy.New(`"(?:allowImportingTsExtensions|rewriteRelativeImportExtensions)"\s*:\s*true|"noEmit"\s*:\s*true|"emitDeclarationOnly"\s*:\s*true`)
	writesTo   = lazy.New(`"outDir"\s*:`)
)

// ofCompiler is what settings of the compiler say of the endings in imports.
type ofCompiler struct{ asksAll, asks, refuses bool }

// runImportEndings tells of relative imports without an ending in modules that are looked up as Node.js does (TypeScript
// handbook, "Modules - Reference", node16), and of such that end as the source does where the compiler writes scripts.
func runImportEndings(c *Call) {
	known := map[string]ofCompiler{} // by the settings and the manifest
	for _, f := range c.everything() {
		ending := path.Ext(f.path)
		if ending != ".ts" && ending != ".mts" && ending != ".tsx" || strings.HasSuffix(f.path, ".d.ts") || c.lends(f.path) || c.fits("except", f.path) {
			continue
		}
		_, settings := c.Graph.Look().Nearest(f.path, "tsconfig.json")
		_, manifest := c.Graph.Look().Nearest(f.path, "package.json")
		by, is := known[settings+" "+manifest]
		if !is {
			by = c.saidByCompiler(settings, manifest)
			known[settings+" "+manifest] = by
		}
		c.tellEndings(f.path, by.asks || by.asksAll && ending == ".mts", by.refuses && c.compiled(f.path))
	}
}

// saidByCompiler reads settings that build on no others, and whether the scripts of a package are modules.
func (c *Call) saidByCompiler(settings, manifest string) (by ofCompiler) {
	text := c.textOf(settings)
	if ofAnother.Match(text) {
		return by
	}
	by.asksAll = asNodeDoes.Match(text)
	by.asks = by.asksAll && ofModules.Match(c.textOf(manifest))
	by.refuses = writesTo.Match(text) && !takesTS.Match(text)
	return by
}

// compiled says whether the compiler writes a script of a file: not of tests and settings beside what it reads.
func (c *Call) compiled(at string) bool {
	return strings.HasPrefix(at, "src/") && !isTest(path.Base(at)) && !inSample(at)
}

func (c *Call) tellEndings(at string, asks, refuses bool) {
	if !asks && !refuses {
		return
	}
	for _, e := range c.Graph.From(at) {
		if e.Ref.Kind != refs.Import || len(e.To) != 1 || !strings.HasPrefix(e.Ref.Name, ".") {
			continue
		}
		source := slices.Contains([]string{".ts", ".tsx", ".mts"}, path.Ext(e.Ref.Name))
		bare := path.Ext(e.Ref.Name) == "" && slices.Contains([]string{".ts", ".tsx", ".js", ".mts", ".mjs"}, path.Ext(e.To[0]))
		if !(asks && bare) && !(refuses && source && !strings.HasSuffix(e.Ref.Name, ".d.ts")) {
			continue
		}
		meant := scriptOf(e.Ref.Name, e.To[0])
		told := c.atRef(at, e.Ref, nil, "it imports %s, and the compiler takes %s", e.Ref.Name, meant)
		told.Fix = c.wholeNamed(&e, meant)
		return // who writes one so writes all so
	}
}

// scriptOf gives the name by which the compiler finds a file: that of the script that it writes of it.
func scriptOf(name, to string) string {
	ending := map[string]string{".ts": ".js", ".tsx": ".js", ".mts": ".mjs"}[path.Ext(to)]
	if ending == "" {
		ending = path.Ext(to)
	}
	if stem := strings.TrimSuffix(name, path.Ext(name)); path.Ext(name) == path.Ext(to) {
		return stem + ending
	}
	if strings.HasPrefix(path.Base(to), "index.") && path.Base(name) != "index" {
		return strings.TrimSuffix(name, "/") + "/index" + ending
	}
	return name + ending
}
