package rules

import (
	"path"
	"strings"

	"dicaxon/internal/names"
)

// places puts a name into a path, in the ways that its braces ask for.
func places(to, name string) string {
	before, rest, braced := strings.Cut(to, "{")
	how, after, closed := strings.Cut(rest, "}")
	if !braced || !closed {
		return to
	}
	plain := strings.ReplaceAll(name, `\`, "/")
	in := "{" + how + "}"
	switch how {
	case "":
		in = plain
	case "/":
		in = strings.ReplaceAll(plain, ".", "/")
	case ":":
		in = strings.Trim(strings.ReplaceAll(plain, ":", "/"), "/")
	case ".":
		in = strings.TrimSuffix(plain, path.Ext(plain))
	case "_":
		in = spelt(name, names.Snake, `:/\`)
	case "_/":
		in = spelt(name, names.Snake, `:/\.`)
	case "^":
		in = spelt(name, names.Pascal, `:/\.`)
	case "-":
		in = names.Singular(names.To(names.Snake, name))
	case "<":
		in = strings.ReplaceAll(strings.TrimSuffix(name, "."+afterDot(name)), ".", "/")
	case ">":
		in = afterDot(name)
	case "/_":
		in = path.Join(path.Dir(plain), "_"+path.Base(plain))
	}
	return before + in + places(after, name)
}

// afterDot gives the last part of a dotted name.
func afterDot(name string) string { return name[strings.LastIndexByte(name, '.')+1:] }

// standsAt gives the path that a name stands for by one of those of the option to: "./" is the folder
// in which the file that says it belongs.
func (c *Call) standsAt(s spoken, to string) string {
	at := fill(places(to, s.name), s.file.env, c.env)
	if strings.HasPrefix(to, "./") {
		at = path.Join(path.Dir(c.homeOf(s.file.path)), at)
	}
	return at
}

// reaches says whether something is at a path, which may begin with any folder, and
// whose last name may go on behind a dot where a star stands.
func (c *Call) reaches(at string) bool {
	tail, anywhere := strings.CutPrefix(at, "**/")
	if folder, is := strings.CutSuffix(tail, "/"); is && anywhere && len(c.Graph.Look().FoldersEnding(folder)) > 0 {
		return true
	}
	return len(c.standing(at)) > 0 || anywhere && c.node(tail) != nil || !anywhere && !strings.HasSuffix(at, ".*") && c.stands(at)
}

// standing gives the files at such a path.
func (c *Call) standing(at string) (all []string) {
	tail, anywhere := strings.CutPrefix(at, "**/")
	stem, open := strings.CutSuffix(tail, ".*")
	if !anywhere {
		if open {
			return c.Graph.Look().Stemmed(stem)
		}
		if n := c.node(at); n != nil && n.Folder == nil {
			all = append(all, at)
		}
		return all
	}
	for _, f := range c.Graph.Look().Called(names.BeforeDot(path.Base(stem))) {
		if f == tail || strings.HasSuffix(f, "/"+tail) || open && (strings.HasPrefix(f, stem+".") || strings.Contains(f, "/"+stem+".")) {
			all = append(all, f)
		}
	}
	return all
}
