package script

import (
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// An alias is a beginning of a name and the folder that stands for it.
type alias struct {
	prefix, folder string
	whole          bool   // it stands for one name, not for a beginning
	only           bool   // a custom, not a setting
	by             string // whose settings make the custom a rule, by their name without an ending
}

// customs are the beginnings that frameworks give their names without a setting.
var customs = []alias{
	{prefix: "@/", folder: "src"}, {prefix: "~/", folder: "src"}, {prefix: "@/", folder: "app"}, {prefix: "~/", folder: "app"},
	{prefix: "@/"}, {prefix: "~/"}, {prefix: "@@/"}, {prefix: "~~/"}, {prefix: "@site/", by: "docusaurus.config"}, {prefix: "$lib/", folder: "src/lib", by: "svelte.config"}, {prefix: "#shared/", folder: "shared", by: "nuxt.config"},
}

// aliasesFor gives the beginnings of names that settings around a file give a
// folder to, the longest first.
func aliasesFor(l *lang.Look, from string) []alias {
	folder, settings := l.Nearest(from, "tsconfig.json", "jsconfig.json", "tsconfig.app.json")
	home, manifest := l.Nearest(from, "package.json")
	return lang.Once(l, "script aliases "+settings+" "+manifest, func() []alias {
		var all []alias
		if settings != "" {
			all = compilerAliases(l, settings, 0)
			whole := path.Base(settings) == "tsconfig.json"
			for _, part := range l.Names(folder) { // such as tsconfig.web.json, which it may only name
				if whole && part != "tsconfig.json" && strings.HasPrefix(part, "tsconfig.") && strings.HasSuffix(part, ".json") {
					all = append(all, compilerAliases(l, path.Join(folder, part), 0)...)
				}
			}
		}
		if manifest != "" {
			all = append(all, manifestAliases(l, manifest)...)
			all = append(all, bundlerAliases(l, home)...)
			all = append(all, babelAliases(l, home)...)
		}
		for _, c := range customs {
			ruled := c.by != "" && len(l.Stemmed(path.Join(home, c.by))) > 0
			all = append(all, alias{prefix: c.prefix, folder: path.Join(home, c.folder), only: !ruled})
		}
		slices.SortStableFunc(all, func(a, b alias) int { return cmp.Compare(len(b.prefix), len(a.prefix)) })
		return all
	})
}

// lostAlias gives the module that an import names by a folder beside others that settings give such a beginning, as
// @lib/ beside @parts/ for src/parts/; "" where there is none.
func lostAlias(l *lang.Look, from, name string) string {
	first, rest, below := strings.Cut(name, "/")
	if !below || rest == "" || len(first) < 2 || strings.IndexByte("@#$~", first[0]) < 0 {
		return ""
	}
	for _, a := range aliasesFor(l, from) {
		if a.only || a.prefix != first[:1]+path.Base(a.folder)+"/" {
			continue
		}
		if to := file(l, path.Join(path.Dir(a.folder), first[1:], rest)); to != nil {
			return to[0]
		}
	}
	return ""
}

// compilerAliases reads the paths of compiler settings, and those that these
// extend.
func compilerAliases(l *lang.Look, settings string, depth int) []alias {
	if depth > 5 || !l.IsFile(settings) {
		return nil
	}
	f := l.Of(settings)
	folder, base := path.Dir(settings), path.Dir(settings)
	var all []alias
	if k := f.Get("compilerOptions.baseUrl"); k != nil {
		base = path.Join(folder, k.Value)
		all = append(all, alias{prefix: "", folder: base})
	}
	for _, k := range f.Of(lang.Key) {
		name, isPath := strings.CutPrefix(k.Name, "compilerOptions.paths.")
		if !isPath || k.Value == "" {
			continue
		}
		at := path.Join(base, strings.TrimSuffix(k.Value, "*"))
		all = append(all, alias{prefix: strings.TrimSuffix(name, "*"), folder: at, whole: !strings.HasSuffix(name, "*")})
	}
	if k := f.Get("extends"); len(all) == 0 && k != nil && strings.HasPrefix(k.Value, ".") {
		at := path.Join(folder, k.Value)
		if !strings.HasSuffix(at, ".json") {
			at += ".json"
		}
		return compilerAliases(l, at, depth+1)
	}
	return all
}

// manifestAliases reads the names that a package keeps for itself.
func manifestAliases(l *lang.Look, manifest string) []alias {
	var all []alias
	for _, k := range l.Of(manifest).Of(lang.Key) {
		if name, ok := strings.CutPrefix(k.Name, "imports."); ok && strings.HasPrefix(name, "#") && strings.HasPrefix(k.Value, "./") && !strings.Contains(strings.TrimSuffix(k.Value, "*"), "*") {
			all = append(all, alias{prefix: strings.TrimSuffix(name, "*"), folder: path.Join(path.Dir(manifest), strings.TrimSuffix(k.Value, "*")), whole: !strings.HasSuffix(name, "*")})
		}
	}
	return all
}

// ungiven says whether a name is one of those that a package keeps for itself, and its manifest, which has others, does
// not give it (Node.js, "Subpath imports").
func ungiven(l *lang.Look, from, name string) bool {
	home, manifest := l.Nearest(from, "package.json")
	if name[0] != '#' || manifest == "" || len(l.Stemmed(path.Join(home, "nuxt.config"))) > 0 {
		return false
	}
	any := false
	for _, k := range l.Of(manifest).Of(lang.Key) {
		key, ok := strings.CutPrefix(k.Name, "imports.")
		if !ok || !strings.HasPrefix(key, "#") {
			continue
		}
		any = true
		if before, _, open := strings.Cut(key, "*"); open && strings.HasPrefix(name, before) || strings.HasPrefix(key+".", name+".") { // on a condition
			return false
		}
	}
	return any
}

// bundlerAliasForms are how settings of bundlers give a name a folder: by a call that makes a path, written from the root
// of the project, as SvelteKit has it (its documents, "Configuration", alias), and in a list.
var bundlerAliasForms = []*lazy.Regexp{
	lazy.New(`['"]?([@~#$]?[\w@~/-]*)['"]?\s*:\s*(?:` + makesPath + `)['"]([^'"]+)['"]`),
	lazy.New(`['"]([@~#$][\w@~/-]*)['"]\s*:\s*['"](/[\w./-]+)['"]`),
	lazy.New(`['"]?(\$[\w/-]+)['"]?\s*:\s*['"](?:\./)?(\w[\w./-]*)['"]`),
	lazy.New(`\bfind\s*:\s*['"]([@~#$][\w@~/-]*)['"]\s*,\s*replacement\s*:\s*(?:` + makesPath + `)?['"]([^'"]+)['"]`),
}

const makesPath = `(?:path\.)?(?:resolve|join)\(\s*(?:(?:__dirname|import\.meta\.dirname|process\.cwd\(\))\s*,\s*)?|fileURLToPath\(\s*new URL\(\s*`

func bundlerAliases(l *lang.Look, home string) []alias {
	var all []alias
	for _, name := range l.Names(home) {
		tool, kind, ok := strings.Cut(name, ".config.") // also of a part: electron.vite, vite.main
		bundler := func(part string) bool {
			return slices.Contains([]string{"vite", "webpack", "rollup", "vitest", "svelte"}, part)
		}
		if !ok || !slices.Contains([]string{"js", "ts", "mjs", "cjs", "mts"}, kind) || !slices.ContainsFunc(strings.Split(tool, "."), bundler) {
			continue
		}
		text := l.TextOf(path.Join(home, name))
		for _, form := range bundlerAliasForms {
			for _, m := range form.Get().FindAllSubmatch(text, -1) {
				if at := path.Join(home, strings.TrimPrefix(string(m[2]), "/")); len(m[1]) > 0 && l.IsFolder(at) {
					all = append(all, alias{prefix: strings.TrimSuffix(string(m[1]), "/") + "/", folder: at})
				}
			}
		}
	}
	return all
}

// How the plug-in of Babel that resolves modules gives names a folder, and from where it looks others up (its
// documents, "Options").
var (
	babelResolver = lazy.New(`\bmodule-resolver\b`)
	babelRoots    = lazy.New(`["']?\broot["']?\s*:\s*\[?((?:\s*["'][\w./-]+["']\s*,?)+)`)
	babelAlias    = lazy.New(`["']?\balias["']?\s*:\s*\{([^{}]*)\}`)
	babelPair     = lazy.New(`["']?([@~#$]?[\w@~/-]*)["']?\s*:\s*["'](\.[\w./@-]*)["']`)
	babelText     = lazy.New(`["']([\w./-]+)["']`)
)

// babelAliases reads the names that settings of Babel give a folder.
func babelAliases(l *lang.Look, home string) []alias {
	var all []alias
	for _, name := range []string{"babel.config.js", "babel.config.cjs", "babel.config.json", ".babelrc", ".babelrc.js", ".babelrc.json", "package.json"} {
		at := path.Join(home, name)
		if !l.IsFile(at) || !babelResolver.Match(l.TextOf(at)) {
			continue
		}
		for _, part := range babelAlias.Get().FindAllSubmatch(l.TextOf(at), -1) {
			for _, m := range babelPair.Get().FindAllSubmatch(part[1], -1) {
				prefix := strings.TrimSuffix(string(m[1]), "/")
				all = append(all, alias{prefix: prefix + "/", folder: path.Join(home, string(m[2]))}, alias{prefix: prefix, folder: path.Join(home, string(m[2])), whole: true})
			}
		}
		for _, part := range babelRoots.Get().FindAllSubmatch(l.TextOf(at), -1) {
			for _, m := range babelText.Get().FindAllSubmatch(part[1], -1) {
				all = append(all, alias{prefix: "", folder: path.Join(home, string(m[1]))})
			}
		}
	}
	return all
}
