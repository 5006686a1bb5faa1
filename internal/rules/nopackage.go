package rules

import (
	"bytes"
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// A nameless file says no package, though its folder has one.
type nameless struct {
	file
	want string // what its folder says, "" where nobody knows
	root string // the folder of sources that it lies in
}

// lacksPackage says whether a file that says no package is one that could have one: code, of which
// an autoloader looks for types alone. What begins a program may be in the nameless package.
func (c *Call) lacksPackage(f file, root string) bool {
	types := c.refsOf(f.path).Of(refs.Type)
	if c.starts(f.path, root) || path.Ext(f.path) == ".php" && isTest(f.path) || len(bytes.TrimSpace(c.textOf(f.path))) == 0 {
		return false
	}
	if c.flag("needed") {
		return path.Ext(f.path) != ".php" || types != nil
	}
	stem := names.BeforeDot(path.Base(f.path))
	if stem == "Program" && path.Ext(f.path) == ".cs" {
		return false // what C# makes of statements at the top is a type of that name in no namespace
	}
	return slices.ContainsFunc(types, func(t refs.Ref) bool { return t.Name == stem })
}

// tellNameless tells of the files without a package line: where each needs one, and else where
// another file says or imports the package of the folder, or nearly all files say one.
func (c *Call) tellNameless(files []file, all []nameless) {
	if len(all) == 0 {
		return
	}
	known, saying, roots := map[string]bool{}, 0, c.files("roots")
	imports := map[string]bool{}
	below := map[string]bool{}      // folders of sources in which a file says one
	beside := map[string][]string{} // by folder, what its files say
	for _, f := range files {
		said, separator := c.refsOf(f.path), separatorIn(f.path)
		if p := said.Package(); p != nil {
			name, dir := strings.Trim(p.Name, separator), path.Dir(f.path)
			known[name], beside[dir] = true, append(beside[dir], name)
			saying++
			if root, ok := rootOf(roots, f.path); ok {
				below[root] = true
			}
		}
		for _, r := range said.Of(refs.Import) {
			name := strings.Trim(strings.TrimSuffix(r.Name, ".*"), separator)
			known[name], imports[name] = true, true
			if i := strings.LastIndex(name, separator); i > 0 {
				known[name[:i]] = true
			}
		}
	}
	all = slices.DeleteFunc(all, func(n nameless) bool { // its folder spells none
		return c.flag("loose") && path.Dir(n.path) == n.root && n.root != "." && path.Ext(n.path) == ".kt" && sole(beside[n.root]) == ""
	})
	for _, n := range all {
		n.want = cmp.Or(sole(beside[path.Dir(n.path)]), n.want)
		inTests := strings.HasPrefix(n.path, "test") || inFolder(n.path, func(name string) bool { return slices.Contains(samples, strings.ToLower(name)) })
		if path.Ext(n.path) == ".php" && inTests && !imports[n.want+`\`+names.BeforeDot(path.Base(n.path))] {
			continue // a runner or a script finds it by its path
		}
		if c.flag("needed") && (below[n.root] || c.text("prefix") != "") || n.want != "" && (known[n.want] || saying >= houseWay*len(all)) {
			c.tellNamelessFile(n)
		}
	}
}

// tellNamelessFile tells of a file that says no package, and gives it the line where one sees its place.
func (c *Call) tellNamelessFile(n nameless) {
	what, where := "package", "nameless"
	if ending := path.Ext(n.path); ending == ".php" || ending == ".cs" {
		what, where = "namespace", "global"
	}
	message := "it says no " + what + ", so it is in the " + where + " one"
	if n.want != "" {
		message += "; its folder says " + n.want
	}
	told := c.report(n.path, 1, 0, &finding.Place{Path: path.Dir(n.path) + "/"}, "%s", message)
	if at, line := c.packageLineOf(n.path, n.want); line != "" && n.want != "" && c.homeOf(n.path) == n.path {
		told.Fix = []edit.Edit{c.edit(n.path, at, line)}
	}
}

// What stands before the package line: comments of Kotlin and Java, of which nobody knows whether
// they are of the file or of a type; what begins a file of PHP, with its declarations (PHP Manual,
// "Defining namespaces"); the imports of C# (ECMA-334, 14.2).
var (
	comments  = lazy.New(`\A\s*(?:/|@file:|#!)`)
	openPHP   = lazy.New(`\A<\?php[ \t]*\r?\n(?:\s*declare\([^)]*\);[ \t]*\r?\n)?\s*`)
	openSharp = lazy.New(`\A(?:\x{FEFF})?(?:(?:[ \t]*|//.*|(?:global )?using [^;]+;[ \t]*)\r?\n)*`)
)

// packageLineOf gives where a package line is to stand in a text, and the line, "" where nobody knows.
func (c *Call) packageLineOf(at, name string) (refs.Span, string) {
	text := c.textOf(at)
	begins := int32(len(text) - len(bytes.TrimLeft(text, "\r\n")))
	switch ending := path.Ext(at); {
	case ending == ".kt" && !comments.Match(text):
		return refs.Span{End: begins}, "package " + name + "\n\n"
	case ending == ".java" && !comments.Match(text):
		return refs.Span{End: begins}, "package " + name + ";\n\n"
	case ending == ".php":
		if m := openPHP.Get().FindIndex(text); m != nil && !bytes.Contains(text[m[1]:], []byte("declare(")) {
			return lang.At(m[1], m[1]), "namespace " + name + ";\n\n"
		}
	case ending == ".cs" && c.forFile(name):
		m := openSharp.Get().FindIndex(text)
		return lang.At(m[1], m[1]), "namespace " + name + ";\n\n"
	}
	return refs.Span{}, ""
}

// forFile says whether a file says a namespace for all of its text, as C# 10 can.
func (c *Call) forFile(name string) bool {
	return slices.ContainsFunc(c.files("files"), func(f file) bool { return bytes.Contains(c.textOf(f.path), []byte("namespace "+name+";")) })
}
