package rules

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/manifest"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var namesFile = &Rule{
	Name: "names-file", Kind: finding.Dangling, Level: finding.Error,
	Doc: "What settings name as a path is there, or made of what is there: entry points, start scripts, assets.",
	Example: `- rule: names-file
  files: package.json
  keys: [main, types, "bin.*"]`,
	Options: []Option{
		{"files", Paths, true, "the files that name paths", false},
		{"keys", Texts, true, "the keys whose values are paths; \"*\" stands for one key", false},
		{"from", Text, false, "the folder from which paths are read; that of the file, if left out", false},
		{"within", Text, false, "the key beside it whose value is the folder, from that of the file, from which the path is read", false},
		{"made-in", Texts, false, "the keys of the same file whose values are folders that are made before: what lies in one is not there yet", false},
		{"except", Paths, false, "values that stand for something else", true},
		{"elsewhere", Flag, false, "true where what is absent may be made or kept elsewhere: without a near name it is a wish at most", false},
		{"near-only", Flag, false, "true where an absent path is wrong only if one of nearly its name is there", false},
		{"from-words", Regexps, false, "takes the path out of a longer value: its first group", false},
	},
	Run: runNamesFile,
}

func runNamesFile(c *Call) {
	for _, f := range c.files("files") {
		if c.lends(f.path) || path.Base(f.path) == "package.json" && inSample(f.path) {
			continue
		}
		for _, r := range c.refsOf(f.path).Refs {
			for _, name := range c.named(r) {
				if name == "" || c.isDependency(f.path, name) || c.fits("except", name) || !isPlain(name) {
					continue
				}
				c.followPath(f, r, name)
			}
		}
	}
}

// isPlain says whether a text can be a path as it stands: nothing has to be filled
// in, and it is no address.
func isPlain(name string) bool {
	return !strings.ContainsAny(name, "$<>{}?#|`!;,=\"' ") && !strings.Contains(name, ":") && !strings.HasPrefix(name, "//") && !strings.HasPrefix(name, "~") && !strings.HasPrefix(name, "@") && hasLetters(name)
}

// A pathNamed is a path that a setting names.
type pathNamed struct {
	file          file
	ref           refs.Ref
	from, written string // the folder that it starts from, and how it is written
	at            string
	meant         string // what was likely meant, if it is not there
	near          bool   // a slip away
}

// pathIn gives the path that a setting names, nil where nobody knows what it starts from, or it
// is there or may be.
func (c *Call) pathIn(f file, r refs.Ref, name string) *pathNamed {
	p := &pathNamed{file: f, ref: r, from: path.Dir(c.homeOf(f.path)), written: name} // of what is astray, where it belongs
	if given := c.text("from"); given != "" {
		p.from = path.Join(strings.TrimSuffix(fill(given, f.env, c.env), "/"))
	}
	if within := c.text("within"); within != "" {
		at := c.refsOf(f.path).Get(strings.TrimSuffix(r.Name, path.Ext(r.Name)) + "." + within)
		if at == nil || !isPlain(at.Value+"/x") {
			return nil
		}
		p.from = path.Join(p.from, at.Value)
	}
	name = strings.ReplaceAll(name, `\`, "/")
	if slices.ContainsFunc(c.keysOf(f.path, "made-in"), func(made refs.Ref) bool {
		return strings.HasPrefix(path.Clean(name)+"/", path.Clean(made.Value)+"/")
	}) {
		return nil
	}
	// Of a path with a part that stands for any, what is before it counts.
	there := c.stands
	if i := strings.IndexAny(name, "*["); i >= 0 {
		name = name[:strings.LastIndexByte(name[:i], '/')+1]
		p.written = p.written[:len(name)]
		there = func(at string) bool { return c.node(at) != nil }
	}
	p.at = path.Join(p.from, name)
	if within := c.text("within"); within != "" && strings.Contains(name, "/") && there(path.Clean(name)) {
		return nil // it is started from the top
	}
	if c.sampled(p.at) || strings.HasPrefix(name, "/") || !hasLetters(name) || strings.HasPrefix(p.at, "..") || p.at == "." || there(p.at) || c.hidden(f.path, p.at) {
		return nil
	}
	return p
}

// sampled says whether a file of settings is one that people make of the sample beside it.
func (c *Call) sampled(at string) bool {
	return strings.HasPrefix(path.Base(at), ".env") && slices.ContainsFunc([]string{".example", ".sample", ".template", ".dist"}, func(ending string) bool { return c.node(at+ending) != nil })
}

// followPath tells of a path that a file names and that is not there.
func (c *Call) followPath(f file, r refs.Ref, name string) {
	p := c.pathIn(f, r, name)
	if p == nil {
		return
	}
	p.meant = cmp.Or(c.nearPath(p.at, f.path, true), c.nearCompiled(f.path, p.at))
	if p.near = p.meant != ""; !p.near {
		if c.flag("near-only") {
			return
		}
		switch moved := c.sameName(p.at, f.path); len(moved) {
		case 0:
			p.meant = cmp.Or(c.besides(p.at, f.path), c.soleStart(f.path, p.at))
		case 1:
			p.meant = moved[0]
		}
	}
	if !c.foldedIn(p) {
		c.tellPath(p)
	}
}

// foldedIn says whether a path lies in a folder that is not there and that was told of: then it
// is told with that.
func (c *Call) foldedIn(p *pathNamed) bool {
	first := c.lost[p.lostKey()]
	if first == 0 || p.near {
		return false
	}
	if also, into := c.Top.Path()+p.at, &c.findings[first-1]; also != into.Other.Path {
		into.AlsoAt(also)
	}
	return true
}

func (p *pathNamed) lostKey() string {
	key, _, _ := strings.Cut(p.ref.Name, ".")
	return p.file.path + "\x00" + key + "\x00" + path.Dir(p.at)
}

func (c *Call) tellPath(p *pathNamed) {
	f, span := p.file, p.ref.Edit()
	line, column := p.ref.Line, p.ref.Column
	if span.Len() > 0 {
		line, column = refs.Place(c.textOf(f.path), span)
	}
	if slices.ContainsFunc(c.findings, func(g finding.Finding) bool {
		return g.Kind == c.rule.Kind && g.Path == c.Top.Path()+f.path && g.Line == line && g.Column == column
	}) {
		return // another rule has said so
	}
	message := fmt.Sprintf("it names %s, which is not there", p.at)
	if p.meant != "" {
		message += "; did it mean " + p.meant + "?"
	}
	told := c.report(f.path, line, column, &finding.Place{Path: p.at}, "%s", message)
	if p.meant != "" && (p.near || !manifest.Is(path.Base(p.at)) || inCommon(p.meant, p.at) > 1) { // each part has a manifest of that name
		told.Fix = c.rewritten(f.path, span, p.written, p.from, p.meant)
	}
	told.About = p.at
	if _, known := c.compiles(f.path, p.at); c.flag("elsewhere") && !p.near && !known {
		told.Level = max(told.Level, finding.Warning)
		k := c.refsOf(f.path).Get("private")
		if path.Base(p.at) == "index.js" || k != nil && k.Value == "true" || c.absentAbove(p.at) != p.at || path.Ext(p.at) == "" {
			told.Level = finding.Note
		}
	}
	if !p.near && path.Dir(p.at) != "." { // several that lie in one folder that is not there are told once
		if c.lost == nil {
			c.lost = map[string]int{}
		}
		c.lost[p.lostKey()] = len(c.findings)
	}
	told.Sought = append(told.Sought, c.looked(f.path, p.at)...)
}

// nearCompiled gives the result of a compiler whose source is there, and whose name is nearly
// that of one that has none.
func (c *Call) nearCompiled(from, at string) string {
	for _, source := range c.sourcesOf(from, at) {
		near := c.nearPath(source, from, false)
		if near == "" || path.Dir(near) != path.Dir(source) {
			continue
		}
		if meant := c.compiledBeside(from, at, near); meant != "" {
			return meant
		}
	}
	return ""
}

// compiledBeside gives what a compiler makes beside a path of a source, "" where it makes none.
func (c *Call) compiledBeside(from, at, source string) string {
	made := path.Join(path.Dir(at), names.Stem(path.Base(source))+path.Ext(at))
	if written, _ := c.compiles(from, made); !written {
		return ""
	}
	return made
}

// soleStart gives the one file that nothing leads to, of those where a setting names what is not
// there, or what that would be compiled of: it is where the program starts.
func (c *Call) soleStart(from, at string) string {
	idle := func(one string) bool {
		return refs.IsCode(one) && c.idle(one) && !strings.Contains(one, ".config.")
	}
	if path.Dir(at) == "." || !refs.IsCode(at) {
		return ""
	}
	if one := only(c.standIns(at, from, nil), idle); one != "" {
		return one
	}
	for _, source := range c.sourcesOf(from, at) {
		if one := only(c.standIns(source, from, nil), idle); one != "" {
			if meant := c.compiledBeside(from, at, one); meant != "" {
				return meant
			}
		}
	}
	return ""
}

// besides gives the one file or folder that stands where a setting names what is not there,
// and whose name begins as that does.
func (c *Call) besides(at, from string) string {
	all := c.standIns(at, from, nil)
	if path.Ext(at) == "" {
		all = append(all, c.foldersBeside(at)...)
	}
	return only(all, func(one string) bool { return beginAlike(one, at) })
}

// absentAbove gives the first name on the way to a path that is not there.
func (p *project) absentAbove(at string) string {
	for i, r := range at {
		if r == '/' && p.node(at[:i]) == nil {
			return at[:i]
		}
	}
	return at
}

// isDependency says whether a value names a module of a dependency rather than a
// file: "main" may be the entry of another package. A folder of that name beside the manifest is meant first.
func (c *Call) isDependency(manifest, name string) bool {
	module := packageOf(name)
	return !strings.HasPrefix(name, ".") && !(module != name && c.isFolder(path.Join(path.Dir(manifest), module))) && slices.ContainsFunc(c.refsOf(manifest).Of(refs.Key), func(k refs.Ref) bool {
		list, below, _ := strings.Cut(k.Name, ".")
		return below == module && slices.Contains([]string{"dependencies", "devDependencies", "peerDependencies", "optionalDependencies"}, list)
	})
}

// changesFolder is a command behind which paths start elsewhere.
var changesFolder = lazy.New(`(?:^|[;&|]\s*)cd\s+\S`)

// named gives the paths that a reference names for the rule.
func (c *Call) named(r refs.Ref) []string {
	if r.Kind != refs.Key {
		return nil
	}
	for _, k := range c.texts("keys") {
		if !keyFits(k, r.Name) {
			continue
		}
		words := c.regexps["from-words"]
		if words == nil {
			return []string{r.Value}
		}
		var all []string
		for _, re := range words {
			for _, m := range re.Get().FindAllStringSubmatchIndex(r.Value, -1) {
				if from, to := m[len(m)-2], m[len(m)-1]; from >= 0 && !changesFolder.MatchString(r.Value[:m[0]+1]) {
					all = append(all, r.Value[from:to])
				}
			}
		}
		return all
	}
	return nil
}

// stands says whether a path is there, with an ending that may be left out.
func (c *Call) stands(at string) bool {
	for _, tail := range []string{"", ".js", ".ts", ".mjs", ".cjs", ".json", "/index.js", "/index.ts"} {
		if c.node(at+tail) != nil {
			return true
		}
	}
	return false
}
