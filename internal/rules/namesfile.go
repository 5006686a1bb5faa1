package rules

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/manifest"
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

// followPath tells of a path that a file names and that is not there.
func (c *Call) followPath(f file, r refs.Ref, name string) {
	from := path.Dir(c.homeOf(f.path)) // of what is astray, where it belongs
	if given := c.text("from"); given != "" {
		from = path.Join(strings.TrimSuffix(fill(given, f.env, c.env), "/"))
	}
	if within := c.text("within"); within != "" {
		at := c.refsOf(f.path).Get(strings.TrimSuffix(r.Name, path.Ext(r.Name)) + "." + within)
		if at == nil || !isPlain(at.Value+"/x") {
			return
		}
		from = path.Join(from, at.Value)
	}
	written := name
	name = strings.ReplaceAll(name, `\`, "/")
	// Of a path with a part that stands for any, what is before it counts.
	folder := false
	if i := strings.IndexAny(name, "*["); i >= 0 {
		name, folder = name[:strings.LastIndexByte(name[:i], '/')+1], true
		written = written[:len(name)]
	}
	at := path.Join(from, name)
	there := c.stands(at)
	if folder {
		there = c.node(at) != nil
	}
	if strings.HasPrefix(name, "/") || !hasLetters(name) || strings.HasPrefix(at, "..") || at == "." || there || c.hidden(f.path, at) {
		return
	}
	near := cmp.Or(c.nearPath(at, f.path, true), c.nearCompiled(f.path, at))
	if near == "" && c.flag("near-only") {
		return
	}
	message := fmt.Sprintf("it names %s, which is not there", at)
	meant := near
	if moved := c.sameName(at, f.path); near == "" && len(moved) == 1 {
		meant = moved[0]
	} else if near == "" && len(moved) == 0 {
		meant = cmp.Or(c.besides(at, f.path), c.soleStart(f.path, at))
	}
	if meant != "" {
		message += "; did it mean " + meant + "?"
	}
	span := r.Edit()
	line, column := r.Line, r.Column
	if span.Len() > 0 {
		line, column = refs.Place(c.textOf(f.path), span)
	}
	// Several that lie in one folder that is not there are told once.
	key, _, _ := strings.Cut(r.Name, ".")
	lost := f.path + "\x00" + key + "\x00" + path.Dir(at)
	if first := c.lost[lost]; first > 0 && near == "" {
		if also, into := c.Top.Path()+at, &c.findings[first-1]; also != into.Other.Path && !slices.Contains(into.Also, also) {
			into.Also = append(into.Also, also)
			into.More = len(into.Also)
		}
		return
	}
	if slices.ContainsFunc(c.findings, func(g finding.Finding) bool {
		return g.Kind == c.rule.Kind && g.Path == c.Top.Path()+f.path && g.Line == line && g.Column == column
	}) {
		return // another rule has said so
	}
	told := c.report(f.path, line, column, &finding.Place{Path: at}, "%s", message)
	if meant != "" && (near != "" || !manifest.Is(path.Base(at)) || inCommon(meant, at) > 1) { // each part has a manifest of that name
		told.Fix = c.rewritten(f.path, span, written, from, meant)
	}
	told.About = at
	_, known := c.compiles(f.path, at)
	if c.flag("elsewhere") && near == "" && !known {
		told.Level = max(told.Level, finding.Warning)
		k := c.refsOf(f.path).Get("private")
		if path.Base(at) == "index.js" || k != nil && k.Value == "true" || c.absentAbove(at) != at || path.Ext(at) == "" {
			told.Level = finding.Note
		}
	}
	if near == "" && path.Dir(at) != "." {
		if c.lost == nil {
			c.lost = map[string]int{}
		}
		c.lost[lost] = len(c.findings)
	}
	told.Sought = append(told.Sought, c.looked(f.path, at)...)
}

// nearCompiled gives the result of a compiler whose source is there, and whose name is nearly
// that of one that has none.
func (c *Call) nearCompiled(from, at string) string {
	for _, source := range c.sourcesOf(from, at) {
		near := c.nearPath(source, from, false)
		if near == "" || path.Dir(near) != path.Dir(source) {
			continue
		}
		meant := path.Join(path.Dir(at), strings.TrimSuffix(path.Base(near), path.Ext(near))+path.Ext(at))
		if written, _ := c.compiles(from, meant); written {
			return meant
		}
	}
	return ""
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
	if one := only(c.standIns(at, from, func(string) bool { return false }), idle); one != "" {
		return one
	}
	for _, source := range c.sourcesOf(from, at) {
		if one := only(c.standIns(source, from, func(string) bool { return false }), idle); one != "" {
			meant := path.Join(path.Dir(at), strings.TrimSuffix(path.Base(one), path.Ext(one))+path.Ext(at))
			if written, _ := c.compiles(from, meant); written && path.Dir(one) == path.Dir(source) {
				return meant
			}
		}
	}
	return ""
}

// besides gives the one file or folder that stands where a setting names what is not there,
// and whose name begins as that does.
func (c *Call) besides(at, from string) string {
	all := c.standIns(at, from, func(string) bool { return false })
	if in := c.node(path.Dir(at)); path.Ext(at) == "" && in != nil && in.Folder != nil {
		for i := range in.Folder.Nodes {
			if n := &in.Folder.Nodes[i]; n.Folder != nil && !n.Ignored {
				all = append(all, path.Join(path.Dir(at), n.Name))
			}
		}
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
// file: "main" may be the entry of another package.
func (c *Call) isDependency(manifest, name string) bool {
	module := packageOf(name)
	return !strings.HasPrefix(name, ".") && slices.ContainsFunc(c.refsOf(manifest).Of(refs.Key), func(k refs.Ref) bool {
		list, below, _ := strings.Cut(k.Name, ".")
		return below == module && slices.Contains([]string{"dependencies", "devDependencies", "peerDependencies", "optionalDependencies"}, list)
	})
}

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
			for _, m := range re.Get().FindAllStringSubmatch(r.Value, -1) {
				all = append(all, m[len(m)-1])
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
