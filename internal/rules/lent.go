package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

// lenders are folders whose files lend their texts to something else: what they
// name is there only once they lie elsewhere.
var lenders = []string{"testdata", "test-data", "fixture", "fixtures", "__fixtures__", "__snapshots__", "snapshots", "vendor", "third_party", "third-party", "node_modules", "bower_components", "template", "templates", "tmpl", "skeleton", "skeletons", "stub", "stubs", "scaffold", "boilerplate", "generators"}

// bundled are marks of a file into which a program put many others.
var bundled = [][]byte{[]byte("__webpack_require__"), []byte("function(require,module,exports)"), []byte("function (require, module, exports)"), []byte("webpackUniversalModuleDefinition"), []byte("System.register("), []byte("require.register(")}

// lends says whether nobody expects the references of a file to lead anywhere:
// its text is lent, or made of others.
func (p *project) lends(at string) bool {
	known, ok := p.lent[at]
	if !ok {
		if p.lent == nil {
			p.lent = map[string]bool{}
		}
		known = p.isLent(at)
		p.lent[at] = known
	}
	return known
}

// handsOut says whether the package that a file is of is there to make others, of templates that it has: what
// those name lies in what is made.
func (p *project) handsOut(at string) bool {
	for dir := path.Dir(at); ; dir = path.Dir(dir) {
		if maker.MatchString(p.packageName(dir)) {
			return true
		}
		if dir == "." {
			return false
		}
	}
}

// packageName gives the name of the package of npm that a folder is, "" where it is none.
func (p *project) packageName(dir string) string {
	manifest := path.Join(dir, "package.json")
	if p.node(manifest) == nil {
		return ""
	}
	if k := p.refsOf(manifest).Get("name"); k != nil {
		return k.Value
	}
	return ""
}

// maker is what packages are called that make others: npm runs one called create-x for "npm create x".
var maker = lazy.New(`(?:^|/)create-|template|generator|starter|scaffold|boilerplate|schematics|blueprint`)

func (p *project) isLent(at string) bool {
	page := path.Ext(at) == ".html" || path.Ext(at) == ".htm"
	code := refs.IsCode(at) && !page
	if kin(path.Ext(at), ".java") {
		if i := packages.Get().FindStringIndex(at); i != nil {
			at = at[:i[1]] + path.Base(at) // the folders of packages are named after what the house is called
		}
	}
	for _, name := range strings.Split(path.Dir(at), "/") {
		name = strings.ToLower(strings.TrimLeft(name, "_."))
		if (slices.Contains(lenders, name) || strings.HasPrefix(name, "template-")) && (code || name != "templates" && name != "template") || strings.HasSuffix(name, "testdata") ||
			handedOut.MatchString(name) && p.handsOut(at) {
			return true
		}
	}
	base := path.Base(at)
	if ofSourceSets.MatchString(at) || meantBroken.MatchString(at) {
		return true
	}
	if _, test := names.Testee(base); testData.MatchString(at) && !(test && hasTypes(at)) { // a class of tests lies by its namespace
		return true
	}
	if base == "gitignore" && p.handsOut(at) { // npm packs none of the name that git looks for
		return true
	}
	if names.BeforeDot(base) == "template" || filled.MatchString(at) { // which what is made is called
		return true
	}
	if madeOf.MatchString(base) {
		return true
	}
	for _, mark := range []string{".min.", ".bundle", ".example", ".sample", ".template", ".dist.", ".j2", ".tmpl", ".erb"} {
		if strings.Contains(base, mark) || strings.HasSuffix(base, ".in") {
			return true
		}
	}
	if page && (inSample(at) || p.buildsPages()) {
		return !p.loadsOwn(at)
	}
	switch path.Ext(at) {
	case ".js", ".mjs", ".cjs":
	default:
		return false
	}
	text := p.textOf(at)
	return slices.ContainsFunc(bundled, func(mark []byte) bool { return bytes.Contains(text, mark) }) || bytes.Contains(text, []byte("define(")) && named.Match(text)
}

// handedOut is what folders are called whose files a package hands out.
var handedOut = lazy.New(`^(?:template.*|files(?:-\w+)?)$`)

// filled is a name with a part that is filled in, as in __name@dasherize__.module.ts.
var filled = lazy.New(`__name__|__\w+@[\w@-]+__`)

// madeOf is what a text of settings or code is called that is written by a template.
var madeOf = lazy.New(`\.\w+\.(?:hbs|ejs|mustache|handlebars|liquid|njk)$`)

// testData is what tests read: code there is no part of the project.
var testData = lazy.New(`(?i)(?:^|/)(?:\w+[-_])?(?:tests?|specs?|e2e|integration)(?:[-_]\w+)?/(?:.+/)?(?:data|in|out|\w*cases?|sources?|inputs?|outputs?|expected|resources(?:-[\w-]+)?|samples?|corpus|assets|_?files|snippets|(?:[\w-]+-)?projects?|sandbox|suites?|examples?|cmake|mocks?|bad\w*|broken\w*|invalid)/`)

// meantBroken is what tests call a file that is not to be read.
var meantBroken = lazy.New(`(?i)(?:^|/)(?:\w+[-_])?tests?(?:[-_]\w+)?/(?:.+/)?(?:broken|invalid)[-_][^/]+$`)

// ofSourceSets is what tests of Gradle's other source sets read, and what Maven's plug-ins are tried on.
var ofSourceSets = lazy.New(`(?:^|/)src/(?:it/|\w+Test/resources/)`)

// packages is where the folders of packages begin (the standard directory layout of Maven).
var packages = lazy.New(`(?:^|/)src/\w+/(?:java|kotlin)/`)

// named is a module that says its own name, from which it looks for others.
var named = lazy.New(`\bdefine\(\s*["'][\w./-]+["']\s*,\s*\[`)

// outputs are folders that builds write.
var outputs = []string{"dist", "build", "out", "target", "esm", "cjs", "lib-cov", "generated", "gen", "release", "artifacts", "publish", "coverage", "_site", ".next", ".nuxt", ".output", ".svelte-kit"}

// hidden says whether what is absent at a path may all the same be there when the
// file that names it needs it: version control does not keep it, or a program
// makes it.
func (c *Call) hidden(from, at string) bool {
	at, _, within := strings.Cut(at, "#")
	if written, known := c.compiles(from, at); known && !within && !c.namesSources(from) { // what is within a file that is there is read from it
		return written
	}
	if base := path.Base(c.absentAbove(at)); slices.Contains(outputs, base) || strings.HasPrefix(base, "dist-") {
		return true
	}
	return c.Repository.Ignores(c.Top.Path()+at) || c.made(at) || c.bundles(from, at) || c.shrunk(at)
}

// namesSources says whether a file is a page that Vite builds, which beside its settings names sources as they are (Vite,
// "Getting Started", "index.html and Project Root").
func (c *Call) namesSources(page string) bool {
	return path.Ext(page) == ".html" && len(c.Graph.Look().Stemmed(path.Join(path.Dir(page), "vite.config"))) > 0
}

// shrunk says whether what a path names is made of what is beside it: a script or style without what
// only people need.
func (c *Call) shrunk(at string) bool {
	whole := strings.Replace(path.Base(at), ".min.", ".", 1)
	return whole != path.Base(at) && c.node(path.Join(path.Dir(at), whole)) != nil
}
