package realign

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// An importing is one import of a file that is cut.
type importing struct {
	of     *statement
	module string   // as it is written
	whole  string   // the statement without what it takes, where it takes no names: `import os`
	single string   // of a script, what stands before the braces: a default, or a whole module
	items  []string // "a" or "a as b"
	types  bool     // of a script, types only
	quote  string   // of a script, the mark around the module; '"' or "'"
	end    string   // of a script, what ends the statement
}

var (
	pythonFrom   = lazy.New(`^from\s+([.\w]+)\s+import\s+\(?([\w\s,]*?),?\s*\)?\s*$`)
	pythonImport = lazy.New(`^import\s+([\w., ]+?)\s*$`)
	scriptFrom   = lazy.New(`^import\s+(type\s+)?(?:([\w$*][\w$* ]*?)\s*,?\s*)?(?:\{([^{}]*)\}\s*)?from\s*["']([^"']+)["'];?\s*$`)
	onlyType     = lazy.New(`^(?:export\s+)?(?:declare\s+)?(?:interface|type)\s`)
	trailing     = lazy.New(`[ \t]*#[^\n]*`)
)

// importOf reads one import, and says whether it is one that can be written anew.
func importOf(l *cutLanguage, text string) (importing, bool) {
	text = strings.TrimSpace(text)
	if l == pythonCut {
		text = string(trailing.Get().ReplaceAll([]byte(text), nil))
		if m := pythonFrom.Get().FindStringSubmatch(text); m != nil {
			return importing{module: m[1], items: listed(m[2])}, true
		}
		if m := pythonImport.Get().FindStringSubmatch(text); m != nil && !strings.Contains(m[1], ",") {
			return importing{whole: m[1]}, true
		}
		return importing{}, false
	}
	if strings.HasPrefix(text, "import \"") || strings.HasPrefix(text, "import '") {
		return importing{whole: text}, true // for what it does
	}
	m := scriptFrom.Get().FindStringSubmatch(text)
	if m == nil {
		return importing{}, false
	}
	one := importing{types: m[1] != "", single: strings.TrimSpace(m[2]), items: listed(m[3]), module: m[4], quote: "'"}
	if strings.Contains(text, `"`+m[4]+`"`) {
		one.quote = `"`
	}
	if strings.HasSuffix(text, ";") {
		one.end = ";"
	}
	return one, true
}

func listed(text string) (all []string) {
	for one := range strings.SplitSeq(text, ",") {
		if one = strings.Join(strings.Fields(one), " "); one != "" {
			all = append(all, one)
		}
	}
	return all
}

// bound gives the name under which an item is known in the file.
func bound(item string) string {
	if i := strings.LastIndex(item, " as "); i >= 0 {
		return item[i+len(" as "):]
	}
	return strings.TrimPrefix(item, "type ")
}

// only keeps of an import what some words use, and says whether that is anything.
func (i importing) only(uses func(string) bool) (importing, bool) {
	kept := i
	kept.items = slices.DeleteFunc(slices.Clone(i.items), func(item string) bool { return !uses(bound(item)) })
	if i.single != "" && !uses(bound(i.single)) {
		kept.single = ""
	}
	if i.whole != "" {
		name, _, _ := strings.Cut(bound(i.whole), ".")
		return kept, uses(name)
	}
	return kept, len(kept.items) > 0 || kept.single != ""
}

// write gives the import as a line.
func (i importing) write(l *cutLanguage) string {
	switch {
	case l == pythonCut && i.whole != "":
		return "import " + i.whole
	case l == pythonCut:
		return "from " + i.module + " import " + strings.Join(i.items, ", ")
	case i.whole != "":
		return i.whole
	}
	line := "import "
	if i.types {
		line += "type "
	}
	line += i.single
	if i.single != "" && len(i.items) > 0 {
		line += ", "
	}
	if len(i.items) > 0 {
		line += "{ " + strings.Join(i.items, ", ") + " }"
	}
	return line + " from " + i.quote + i.module + i.quote + i.end
}

// from gives the import as the new file has it: what it names from where it lies is named from there.
func (c *cutting) from(i importing) importing {
	if !strings.HasPrefix(i.module, ".") {
		return i
	}
	if c.l == scriptCut {
		i.module = refs.WayTo(c.to, path.Join(path.Dir(c.at), i.module))
		return i
	}
	name := strings.TrimLeft(i.module, ".")
	in := path.Dir(c.at)
	for range len(i.module) - len(name) - 1 {
		in = path.Dir(in)
	}
	to := path.Join(in, strings.ReplaceAll(name, ".", "/"))
	if all := refs.Respell(refs.Ref{Relative: 1, Name: name}, c.at, to, c.to, to); len(all) > 0 {
		i.module = strings.Repeat(".", all[0].Relative) + all[0].Name
	}
	return i
}

// module gives how one of the two files is named from the other, as the project names the old one.
func (c *cutting) module(from, to string) string {
	if c.l == scriptCut {
		name := refs.WayTo(from, to)
		if slices.ContainsFunc(c.imports, func(i importing) bool { return strings.HasPrefix(i.module, ".") && path.Ext(i.module) == "" }) || path.Ext(to) != ".js" && path.Ext(to) != ".mjs" {
			name = strings.TrimSuffix(name, path.Ext(name))
		}
		return name
	}
	here := slices.ContainsFunc(c.imports, func(i importing) bool { return strings.HasPrefix(i.module, ".") })
	for _, e := range c.graph.To(c.at) {
		if !here && e.Ref.Relative == 0 && e.Ref.Name != "" && e.Ref.Value != "" && path.Ext(e.From) == ".py" {
			if all := refs.Respell(e.Ref, e.From, c.at, e.From, to); len(all) > 0 {
				return all[0].Name
			}
		}
	}
	if all := refs.Respell(refs.Ref{Relative: 1}, from, to, from, to); len(all) > 0 {
		return strings.Repeat(".", all[0].Relative) + all[0].Name
	}
	return strings.ReplaceAll(strings.TrimSuffix(to, ".py"), "/", ".")
}

// written gives the text of the new file.
func (c *cutting) written(needs, back []string) string {
	uses := func(name string) bool {
		return name == "annotations" || slices.ContainsFunc(c.all, func(s statement) bool { return c.taken(&s) && (s.words[name] || s.quoted[name]) })
	}
	var head []string
	apartNow, before := false, 0 // an empty line stands between what is kept
	for _, i := range c.imports {
		apartNow = apartNow || before > 0 && bytes.HasPrefix(c.text[before:], []byte("\n"))
		before = i.of.end
		kept, any := i.only(uses)
		if !any {
			continue
		}
		line := c.from(kept).write(c.l)
		if apartNow && len(head) > 0 {
			line = "\n" + line
		}
		head, apartNow = append(head, line), false
	}
	if len(needs) > 0 {
		head = append(head, c.naming(c.module(c.to, c.at), needs).write(c.l))
	}
	apart := "\n"
	if c.l == pythonCut {
		apart = "\n\n"
	}
	var b strings.Builder
	if len(head) > 0 {
		b.WriteString(strings.Join(head, "\n") + "\n" + apart)
	}
	last := -1
	for k := range c.all {
		s := &c.all[k]
		if !c.taken(s) {
			continue
		}
		if last >= 0 {
			between := apart
			if last == k-1 { // as they stand now
				between = string(bytes.Repeat([]byte("\n"), bytes.Count(c.text[c.all[last].end:s.start], []byte("\n"))))
			}
			b.WriteString(between)
		}
		b.Write(c.text[s.start:s.body])
		if c.l == scriptCut && !s.exported && slices.ContainsFunc(s.names, func(name string) bool { return slices.Contains(back, name) }) {
			b.WriteString("export ")
		}
		b.Write(c.text[s.body:s.end])
		last = k
	}
	return strings.TrimRight(b.String(), "\n") + "\n"
}

// leave takes what was cut, and the imports that nothing else needs, out of the old file, and lets it take
// or hand on what others still look for there.
func (c *cutting) leave(back []string, handsOn bool) {
	stays := func(name string) bool {
		return slices.ContainsFunc(c.all, func(s statement) bool { return !c.taken(&s) && !s.imports && (s.words[name] || s.quoted[name]) }) || c.takenByOthers(name)
	}
	cut := func(start, end int, text string) {
		line, _ := refs.Place(c.text, refs.Span{Start: int32(start), End: int32(start)})
		c.edits = append(c.edits, edit.Edit{Path: c.at, Line: line, Start: start, End: end, Text: text})
	}
	for k := 0; k < len(c.all); k++ {
		if first := k; c.taken(&c.all[k]) {
			for k+1 < len(c.all) && c.taken(&c.all[k+1]) {
				k++
			}
			from, to := c.rowOf(first, k)
			cut(from, to, "")
		}
	}
	handing := c.handing(back, handsOn)
	var last *statement
	for n, i := range c.imports {
		used := func(name string) bool {
			return name == "annotations" || stays(name) || !slices.ContainsFunc(c.all, func(s statement) bool { return c.taken(&s) && s.words[name] })
		}
		kept, any := i.only(used)
		add := ""
		if n == len(c.imports)-1 && handing != "" {
			add = handing + "\n"
		}
		same := len(kept.items) == len(i.items) && kept.single == i.single && any
		switch {
		case same && add == "":
		case same:
			cut(i.of.end, i.of.end, add)
		case any:
			cut(i.of.body, i.of.end, kept.write(c.l)+"\n"+add)
		default:
			end := i.of.end
			if rest := c.text[end:]; add == "" && bytes.HasPrefix(rest, []byte("\n")) && (i.of.start == 0 || bytes.HasSuffix(c.text[:i.of.start], []byte("\n\n"))) {
				end++ // one empty line is enough
			}
			cut(i.of.start, end, add)
		}
		last = i.of
	}
	if last == nil && handing != "" {
		at := c.all[0].start
		if len(c.all[0].names) == 0 && !c.taken(&c.all[0]) && len(c.all) > 1 && strings.ContainsAny(string(c.text[c.all[0].body:c.all[0].body+1]), "\"'") {
			at = c.all[1].start // behind what the file says of itself
		}
		cut(at, at, handing+"\n\n")
	}
}

// rowOf gives the part of the text that goes with a row of statements: of the empty lines before and behind it
// the fewer, and no remark that stands apart.
func (c *cutting) rowOf(first, last int) (from, to int) {
	from, to = c.all[first].start, c.all[last].end
	empty := func(text []byte) int { return len(text) - len(bytes.TrimLeft(text, "\r\n")) }
	behind := empty(c.text[to:])
	before := len(c.text[:from]) - len(bytes.TrimRight(c.text[:from], "\r\n")) - 1 // without the end of the line above
	switch {
	case first == 0 || last+1 < len(c.all) && before >= behind:
		return from, to + behind
	case last+1 == len(c.all) && to+behind == len(c.text):
		return from - max(before, 0), to + behind
	}
	return from - max(before, 0), to
}

// naming gives an import of a module, written as the file writes others.
func (c *cutting) naming(module string, items []string) importing {
	one := importing{module: module, items: items, quote: "'", end: ";"}
	if k := slices.IndexFunc(c.imports, func(i importing) bool { return i.quote != "" }); k >= 0 {
		one.quote, one.end = c.imports[k].quote, c.imports[k].end
	}
	return one
}

// takenByOthers says whether another file takes a name out of the old one.
func (c *cutting) takenByOthers(name string) bool {
	return slices.ContainsFunc(c.graph.To(c.at), func(e refs.Edge) bool { return e.Ref.Value == name })
}

// handing gives the line by which the old file takes or hands on what was cut, "" for none.
func (c *cutting) handing(back []string, handsOn bool) string {
	all, types := back, []string(nil)
	if handsOn {
		all = nil
		for _, name := range slices.Compact(slices.Sorted(slices.Values(c.takes))) {
			switch s := declaring(c.all, name); {
			case !s.exported || c.l == pythonCut && slices.Contains(c.brought, name) && !slices.Contains(back, name):
			case c.l == scriptCut && onlyType.Match(c.text[s.body:s.end]):
				types = append(types, name)
			default:
				all = append(all, name)
			}
		}
	}
	if len(all)+len(types) == 0 {
		return ""
	}
	module := c.module(c.at, c.to)
	if c.l == pythonCut {
		line := c.naming(module, all).write(c.l)
		if len(back) < len(all) {
			line += "  # noqa: F401"
		}
		return line
	}
	var lines []string
	if len(back) > 0 {
		lines = append(lines, c.naming(module, back).write(c.l))
	}
	if handsOn && len(all) > 0 {
		lines = append(lines, "export"+strings.TrimPrefix(c.naming(module, all).write(c.l), "import"))
	}
	if len(types) > 0 {
		lines = append(lines, "export type"+strings.TrimPrefix(c.naming(module, types).write(c.l), "import"))
	}
	return strings.Join(lines, "\n")
}
