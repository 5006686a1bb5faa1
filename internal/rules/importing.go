package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// importing gives the edit that imports a name of a module of the project where a file uses it, as
// the file imports others; nil where nobody can tell how.
func (c *Call) importing(at string, said *refs.File, name, module string) []edit.Edit {
	if e := c.joined(at, said, name, func(r refs.Ref) bool { return slices.Contains(c.targets(at, r), module) }); e != nil {
		return e
	}
	statement := ""
	if path.Ext(at) == ".py" {
		statement = c.pythonImport(at, name, module)
	} else {
		whole := names.BeforeDot(path.Base(module)) == name && alone.Match(c.textOf(module))
		statement = c.scriptImport(at, said, name, c.from(at, said, module), whole)
	}
	return c.afterImports(at, said, statement)
}

// importingOthers gives the edit that imports a name of a package of others.
func (c *Call) importingOthers(at string, said *refs.File, name, from string) []edit.Edit {
	if e := c.joined(at, said, name, func(r refs.Ref) bool { return r.Name == from }); e != nil {
		return e
	}
	if path.Ext(at) == ".py" {
		return c.afterImports(at, said, "from "+from+" import "+name)
	}
	return c.afterImports(at, said, c.scriptImport(at, said, name, from, false))
}

// joined gives the edit that takes one name more where a file takes others out of a module, by the
// last import of it.
func (c *Call) joined(at string, said *refs.File, name string, ofModule func(r refs.Ref) bool) []edit.Edit {
	text := c.textOf(at)
	for _, r := range slices.Backward(said.Of(refs.Import)) {
		if r.Value == "" || r.Value == "*" || r.Value == "default" || r.ValueSpan.Len() == 0 || !ofModule(r) {
			continue
		}
		behind := bytes.TrimLeft(text[r.ValueSpan.End:], " \t")
		if renamed := bytes.HasPrefix(behind, []byte("as ")) || bytes.HasPrefix(behind, []byte(":")); !renamed {
			return []edit.Edit{c.edit(at, refs.Span{Start: r.ValueSpan.End, End: r.ValueSpan.End}, ", "+name)}
		}
	}
	return nil
}

// pythonImport gives the line by which others import a name from a module, "" where nobody does in
// a way that holds in this file.
func (c *Call) pythonImport(at, name, module string) string {
	for _, e := range c.Graph.To(module) {
		if r := e.Ref; r.Kind == refs.Import && r.Name != "" && r.Value != "" && slices.Contains(e.To, module) && len(e.To) == 1 && (r.Relative == 0 || path.Dir(e.From) == path.Dir(at)) {
			return "from " + strings.Repeat(".", r.Relative) + r.Name + " import " + name
		}
	}
	stem := names.BeforeDot(path.Base(module))
	for _, e := range c.Graph.To(module) { // they take the module out of its package
		if r := e.Ref; r.Kind == refs.Import && r.Name != "" && r.Value == stem && r.Relative == 0 {
			return "from " + r.Name + "." + stem + " import " + name
		}
	}
	if dir := path.Dir(at); dir == path.Dir(module) && c.node(path.Join(dir, "__init__.py")) == nil {
		return "from " + stem + " import " + name
	}
	return ""
}

// from gives a module as a file names those of the project.
func (c *Call) from(at string, said *refs.File, module string) string {
	name := refs.WayTo(at, module)
	ends := slices.ContainsFunc(said.Of(refs.Import), func(r refs.Ref) bool {
		return strings.HasPrefix(r.Name, ".") && slices.Contains(compiledTo, path.Ext(r.Name))
	})
	switch {
	case !ends && !slices.Contains([]string{".vue", ".svelte"}, path.Ext(name)):
		return strings.TrimSuffix(name, path.Ext(name))
	case strings.Contains(path.Ext(name), "ts"):
		return strings.TrimSuffix(name, path.Ext(name)) + ".js"
	}
	return name
}

// scriptImport gives the statement that imports a name in the manner of a file.
func (c *Call) scriptImport(at string, said *refs.File, name, module string, whole bool) string {
	quote, required := "'", false
	for _, r := range said.Of(refs.Import) {
		if r.Quote == '"' || r.Quote == '\'' {
			quote = string(r.Quote)
		}
		line, _ := lineAround(c.textOf(at), r.Span.Start)
		required = strings.Contains(line, "require(")
	}
	taken := name
	if !whole {
		taken = "{ " + name + " }"
	}
	if required {
		return "const " + taken + " = require(" + quote + module + quote + ")"
	}
	return "import " + taken + " from " + quote + module + quote
}

// lineAround gives the line in which an offset lies, and where it ends.
func lineAround(text []byte, at int32) (line string, end int32) {
	start := int32(bytes.LastIndexByte(text[:at], '\n') + 1)
	end = at + int32(lang.LineLength(text[at:]))
	if end > start && text[end-1] == '\r' {
		end--
	}
	return string(text[start:end]), end
}

// afterImports gives the edit that writes a statement below the last import of a file that stands in
// a line of its own and at its start; nil where there is none.
func (c *Call) afterImports(at string, said *refs.File, statement string) []edit.Edit {
	if statement == "" {
		return nil
	}
	text := c.textOf(at)
	for _, r := range slices.Backward(said.Of(refs.Import)) {
		line, stop := lineAround(text, r.Span.Start)
		begins := slices.ContainsFunc([]string{"import ", "from ", "const ", "var ", "let ", "use ", "using "}, func(word string) bool { return strings.HasPrefix(line, word) })
		if !begins || strings.Count(line, "(") != strings.Count(line, ")") || strings.Count(line, "{") != strings.Count(line, "}") || strings.HasSuffix(line, `\`) {
			continue
		}
		if path.Ext(at) != ".py" && strings.HasSuffix(line, ";") {
			statement += ";"
		}
		return []edit.Edit{c.edit(at, refs.Span{Start: stop, End: stop}, newline(said)+statement)}
	}
	return nil
}

// newline gives what ends a line of a file.
func newline(said *refs.File) string {
	if said.Returns {
		return "\r\n"
	}
	return "\n"
}

// importingGo gives the edit that imports a package in the group of imports of a file of Go.
func (c *Call) importingGo(at string, said *refs.File, as, module string) []edit.Edit {
	text := c.textOf(at)
	for _, r := range slices.Backward(said.Of(refs.Import)) {
		if line, stop := lineAround(text, r.Span.Start); module != "" && strings.HasPrefix(line, "\t") {
			return []edit.Edit{c.edit(at, refs.Span{Start: stop, End: stop}, newline(said)+"\t"+as+"\""+module+"\"")}
		}
	}
	return nil
}
