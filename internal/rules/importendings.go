package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
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

// runImportEndings tells of relative imports without an ending in modules that are looked up as Node.js does (TypeScript
// handbook, "Modules - Reference", node16), and of such that end as the source does where the compiler writes scripts.
func runImportEndings(c *Call) {
	for _, f := range c.everything() {
		if ending := path.Ext(f.path); ending != ".ts" && ending != ".mts" && ending != ".tsx" || strings.HasSuffix(f.path, ".d.ts") || c.lends(f.path) || c.fits("except", f.path) {
			continue
		}
		settings := c.textOf(c.nearestUp(path.Dir(f.path), "tsconfig.json"))
		if len(settings) == 0 || ofAnother.Match(settings) {
			continue
		}
		asks := asNodeDoes.Match(settings) && (path.Ext(f.path) == ".mts" || ofModules.Match(c.textOf(c.nearestUp(path.Dir(f.path), "package.json"))))
		refuses := writesTo.Match(settings) && !takesTS.Match(settings) && c.compiled(f.path)
		c.tellEndings(f.path, asks, refuses)
	}
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
		if span := e.Ref.Edit(); string(span.In(c.textOf(at))) == e.Ref.Name {
			told.Fix = []edit.Edit{c.edit(at, span, meant)}
		}
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
