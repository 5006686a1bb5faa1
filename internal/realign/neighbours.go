package realign

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// neighbours imports what was seen without an import while it was in the same package.
func (f *follower) neighbours(all []space) {
	of := map[string][]string{} // files by their package before
	f.tree.Each(func(at string) {
		if _, ok := spaceLanguages[path.Ext(at)]; ok {
			if said := f.graph.Of(at).Package(); said != nil {
				of[said.Name] = append(of[said.Name], at)
			}
		}
	})
	after := map[string]string{}
	for _, s := range all {
		after[s.at] = s.new
	}
	packageOf := func(at, before string) string {
		if now, ok := after[at]; ok {
			return now
		}
		return before
	}
	done := map[string]bool{}
	for _, s := range all {
		for _, beside := range of[s.old] {
			if beside == s.at || path.Ext(beside) != path.Ext(s.at) && !(isJVM(beside) && isJVM(s.at)) {
				continue
			}
			now := packageOf(beside, s.old)
			if now == s.new || done[s.at+"\x00"+beside] {
				continue
			}
			done[s.at+"\x00"+beside], done[beside+"\x00"+s.at] = true, true
			f.see(beside, now, s.new, s.names)
			f.see(s.at, s.new, now, f.declared(beside))
			f.closed(s.at, beside)
			f.closed(beside, s.at)
		}
		// Who imports all of the old package, or lies below it, sees it no more.
		f.tree.Each(func(at string) {
			if path.Ext(at) != path.Ext(s.at) || slices.Contains(of[s.old], at) {
				return
			}
			l := spaceLanguages[path.Ext(at)]
			for _, r := range f.graph.Of(at).Of(refs.Import) {
				if r.Name == s.old+l.separator+"*" || l.whole && r.Name == s.old {
					f.see(at, "", s.new, s.names)
				}
			}
			if said := f.graph.Of(at).Package(); l.whole && said != nil && strings.HasPrefix(said.Name, s.old+".") {
				f.see(at, packageOf(at, said.Name), s.new, s.names)
			}
		})
	}
}

func isJVM(at string) bool { return path.Ext(at) == ".java" || path.Ext(at) == ".kt" }

// see lets a file import those of the names of a package that it uses.
func (f *follower) see(at, own, from string, names []string) {
	l := spaceLanguages[path.Ext(at)]
	text, err := f.tree.Text(at)
	if err != nil || l.whole && (own == from || strings.HasPrefix(own, from+".")) {
		return
	}
	code := refs.Code(at, text)
	file := f.graph.Of(at)
	for _, name := range names {
		if !lang.HasWord(code, name) || slices.ContainsFunc(file.Of(refs.Type), func(t refs.Ref) bool { return t.Name == name }) {
			continue
		}
		if slices.ContainsFunc(file.Of(refs.Import), func(r refs.Ref) bool {
			return r.Name == from+l.separator+name || strings.HasSuffix(r.Name, l.separator+name) && !l.whole || r.Name == from
		}) {
			continue
		}
		what := from + l.separator + name
		if l.whole {
			what = from
		}
		f.addImport(at, text, l, what)
		if l.whole {
			return
		}
	}
}

// addImport adds an import where the others are, in their order.
func (f *follower) addImport(at string, text []byte, l spaceLanguage, what string) {
	statement := l.keyword + " " + what + l.end
	file := f.graph.Of(at)
	returns := "\n"
	if file.Returns {
		returns = "\r\n"
	}
	place, line := -1, 0
	start := 0
	for n := 1; start < len(text); n++ {
		end := start + lang.LineLength(text[start:])
		one := strings.TrimRight(string(text[start:end]), "\r")
		if strings.HasPrefix(one, l.keyword+" ") && !strings.Contains(one, "(") {
			if one == statement {
				return
			}
			if place < 0 || one < statement {
				place, line = end+1, n
				if one > statement {
					place = start
				}
			}
		}
		start = end + 1
	}
	insert := statement + returns
	if place < 0 {
		said := file.Package()
		if said == nil {
			return
		}
		end := int(said.Span.End) + lang.LineLength(text[said.Span.End:])
		place, line, insert = min(end+1, len(text)), said.Line, returns+insert
		if l.whole { // imports stand before the namespace
			place, line, insert = bytes.LastIndexByte(text[:said.Span.Start], '\n')+1, said.Line, statement+returns+returns
		}
	}
	if place = min(place, len(text)); place == len(text) && place > 0 && text[place-1] != '\n' {
		insert = returns + strings.TrimSuffix(insert, returns)
	}
	for i := range f.edits { // several at one place are one
		if e := &f.edits[i]; e.Path == at && e.Start == place && e.End == place {
			if !strings.Contains(e.Text, statement+returns) {
				e.Text += strings.TrimPrefix(insert, returns)
			}
			return
		}
	}
	f.edit(at, line, place, place, insert)
}

// closed remarks on what a file of Java declares for its own package alone and another, which
// is no longer in it, uses (the Java Language Specification, 6.6.1).
func (f *follower) closed(at, user string) {
	if path.Ext(at) != ".java" {
		return
	}
	text, err := f.tree.Text(at)
	using, failed := f.tree.Text(user)
	if err != nil || failed != nil {
		return
	}
	used := refs.Code(user, using)
	for _, m := range forPackage.FindAll(refs.Code(at, text)) {
		if name := string(text[m[2]:m[3]]); lang.HasWord(used, name) {
			line, _ := refs.Place(text, lang.At(m[2], m[3]))
			f.remark(at, line, name+" is for its own package alone, and "+user+" uses it; make it public, or leave them together")
			return
		}
	}
}

// forPackage finds members and types without a word that says who may use them.
var forPackage = lazy.New(`(?m)^[ \t]*(?:(?:static|final|abstract|synchronized|sealed)[ \t]+)*(?:(?:class|interface|enum|record)|(?:[A-Za-z_][\w.]*(?:<[^;={}]*>)?(?:\[\])*))[ \t]+(\w+)[ \t]*(?:[({;=<]|extends|implements)`)
