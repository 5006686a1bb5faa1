package realign

import (
	"bytes"
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// A spaceLanguage is one whose files say in which package or namespace they are, by which
// others know what they declare.
type spaceLanguage struct {
	separator string
	keyword   string // begins an import
	end       string
	whole     bool // an import is of a whole namespace, and what is around it is seen without
}

var spaceLanguages = map[string]spaceLanguage{
	".java": {".", "import", ";", false}, ".kt": {".", "import", "", false},
	".php": {`\`, "use", ";", false}, ".cs": {".", "using", ";", true},
}

// A space is one file that comes into another package.
type space struct {
	at, newAt, old, new string
	names               []string // what it declares
}

// packages lets the packages of files that move follow their folders, with everything that
// is known by them.
func (f *follower) packages() {
	f.goPackages()
	f.rustModules()
	var all []space
	for _, m := range f.plan.Moves {
		f.moved.each(strings.TrimSuffix(m.From, "/"), func(at string) {
			if s, ok := f.space(at); ok && !slices.ContainsFunc(all, func(o space) bool { return o.at == at }) {
				all = append(all, s)
			}
		})
	}
	if len(all) == 0 {
		return
	}
	for _, s := range all {
		said := f.graph.Of(s.at).Package()
		f.edit(s.at, said.Line, int(said.Span.Start), int(said.Span.End), s.new)
	}
	f.qualified(all)
	f.neighbours(all)
}

// space gives what a file declares, with its package before and after the moves.
func (f *follower) space(at string) (space, bool) {
	l, ok := spaceLanguages[path.Ext(at)]
	said := f.graph.Of(at).Package()
	newAt := f.plan.After(at)
	if !ok || said == nil || newAt == at {
		return space{}, false
	}
	s := space{at: at, newAt: newAt, old: said.Name, new: f.packageAt(at, newAt, said.Name, l.separator)}
	s.names = f.declared(at)
	return s, s.new != s.old
}

var kotlinTop = lazy.New(`(?m)^(?:(?:public|internal|private|inline|suspend|operator|infix|tailrec|const|lateinit|override)\s+)*(?:fun|val|var|typealias)\s+(?:<[^>]*>\s*)?(?:[\w<>?, ]+\.)?(\w+)`)

// declared lists the names that a file declares for others.
func (f *follower) declared(at string) []string {
	var all []string
	for _, t := range f.graph.Of(at).Of(refs.Type) {
		all = append(all, t.Name)
	}
	if path.Ext(at) == ".kt" {
		text, _ := f.tree.Text(at)
		for _, m := range kotlinTop.Get().FindAllSubmatch(refs.Code(at, text), -1) {
			if !slices.Contains(all, string(m[1])) {
				all = append(all, string(m[1]))
			}
		}
	}
	return all
}

// packageAt gives the package of a file in its new folder: that of its neighbours there,
// or the old one with the part that spells its folder spelt anew.
func (f *follower) packageAt(at, newAt, old, separator string) string {
	dir, newDir := path.Dir(at), path.Dir(newAt)
	if spelt(old, newDir, separator) > spelt(old, dir, separator) {
		return old // it says where it belongs
	}
	for _, name := range f.tree.Names(newDir) {
		if beside := path.Join(newDir, name); path.Ext(name) == path.Ext(at) && f.plan.After(beside) == beside && beside != at {
			if said := f.graph.Of(beside).Package(); said != nil {
				return said.Name
			}
		}
	}
	if name, ok := under(old, dir, newDir, separator); ok {
		return name
	}
	// Under another root, as it is spelt there.
	found := ""
	f.tree.Each(func(other string) {
		if path.Ext(other) != path.Ext(at) || found != "" && len(path.Dir(other)) > len(newDir) {
			return
		}
		if said := f.graph.Of(other).Package(); said != nil {
			if name, ok := under(said.Name, path.Dir(other), newDir, separator); ok && name != "" {
				found = name
			}
		}
	})
	return cmp.Or(found, old)
}

// spelt counts the folders at the end of a path that the end of a package spells.
func spelt(name, dir, separator string) int {
	parts := strings.Split(dir, "/")
	best := 0
	for n := 1; n <= len(parts) && dir != "."; n++ {
		tail := strings.Join(parts[len(parts)-n:], separator)
		if separator != "." {
			tail = strings.ReplaceAll(tail, ".", separator)
		}
		if name == tail || strings.HasSuffix(name, separator+tail) {
			best = n
		}
	}
	return best
}

// under spells the package of a folder as that of another is spelt, where both lie below
// what that one begins at.
func under(name, dir, newDir, separator string) (string, bool) {
	n := spelt(name, dir, separator)
	parts := strings.Split(dir, "/")
	if dir == "." {
		parts = nil
	}
	root := strings.Join(parts[:len(parts)-n], "/")
	tail := strings.Join(parts[len(parts)-n:], separator)
	prefix := strings.TrimSuffix(strings.TrimSuffix(name, tail), separator)
	below, ok := newDir, true
	if root != "" {
		if newDir == root {
			return prefix, prefix != ""
		}
		if below, ok = strings.CutPrefix(newDir, root+"/"); !ok {
			return "", false
		}
	}
	if below == "." {
		return prefix, prefix != ""
	}
	return strings.Trim(prefix+separator+strings.ReplaceAll(below, "/", separator), separator), true
}

// mayName says whether a file of that name may hold the full name of a class: code, and
// settings that name one.
func mayName(at string) bool {
	switch path.Ext(at) {
	case ".java", ".kt", ".kts", ".php", ".cs", ".xml", ".yaml", ".yml", ".json", ".neon", ".properties", ".gradle", ".toml", ".twig", ".csproj", ".cshtml", ".razor", ".dist", ".pro":
		return true
	}
	return false
}

// qualified writes the full names of what moves anew, wherever they stand.
func (f *follower) qualified(all []space) {
	emptied := f.emptied(all)
	f.tree.Each(func(at string) {
		if !mayName(at) {
			return
		}
		text, err := f.tree.Text(at)
		if err != nil {
			return
		}
		for _, s := range all {
			l := spaceLanguages[path.Ext(s.at)]
			if !bytes.Contains(text, []byte(s.old)) && l.separator != `\` {
				continue
			}
			for _, separator := range []string{l.separator, `\\`} {
				if separator == `\\` && l.separator != `\` {
					continue
				}
				spell := func(name string) string { return strings.ReplaceAll(name, l.separator, separator) }
				own := f.packageAfter(at, all)
				for _, name := range s.names {
					if own == s.new && !l.whole && f.dropImport(at, text, s.old+l.separator+name) {
						continue // what is in the same package needs none
					}
					f.replace(at, text, spell(s.old)+separator+name, spell(s.new)+separator+name)
				}
				if emptied[s.old] == s.new && s.new != "" {
					f.replace(at, text, spell(s.old)+separator+"*", spell(s.new)+separator+"*")
				}
			}
			if now, gone := emptied[s.old]; l.whole && gone {
				f.replaceUsing(at, text, s.old, now)
			}
		}
	})
}

// packageAfter gives the package that a file is in after the moves.
func (f *follower) packageAfter(at string, all []space) string {
	for i := range all {
		if all[i].at == at {
			return all[i].new
		}
	}
	if said := f.graph.Of(at).Package(); said != nil {
		return said.Name
	}
	return ""
}

// dropImport takes out the line that imports a name, and says whether there is one.
func (f *follower) dropImport(at string, text []byte, name string) bool {
	imports := f.graph.Of(at).Of(refs.Import)
	for _, r := range imports {
		start := bytes.LastIndexByte(text[:r.Span.Start], '\n') + 1
		end := min(len(text), start+lang.LineLength(text[start:])+1)
		if line := strings.TrimRight(strings.TrimSpace(string(text[start:end])), ";"); r.Name == name && (line == "import "+name || line == "use "+name) {
			if len(imports) == 1 && start > 1 && text[start-2] == '\n' && end < len(text) && text[end] == '\n' {
				end++ // with the line that set it off
			}
			f.edit(at, r.Line, start, end, "")
			return true
		}
	}
	return false
}

// emptied gives the packages that nothing is left in, with the one that all of it went to,
// "" for several.
func (f *follower) emptied(all []space) map[string]string {
	to := map[string]string{}
	for _, s := range all {
		if known, ok := to[s.old]; ok && known != s.new {
			to[s.old] = "" // to several
			continue
		}
		to[s.old] = s.new
	}
	f.tree.Each(func(at string) {
		if _, ok := spaceLanguages[path.Ext(at)]; !ok || slices.ContainsFunc(all, func(s space) bool { return s.at == at }) {
			return
		}
		if said := f.graph.Of(at).Package(); said != nil {
			delete(to, said.Name)
		}
	})
	return to
}

// replaceUsing writes an import of a whole namespace anew, or takes it out where what was in
// it went to several: those are imported where they are used.
func (f *follower) replaceUsing(at string, text []byte, old, new string) {
	for _, r := range f.graph.Of(at).Of(refs.Import) {
		if r.Name != old {
			continue
		}
		if new != "" {
			f.edit(at, r.Line, int(r.Span.Start), int(r.Span.End), new)
			continue
		}
		start := bytes.LastIndexByte(text[:r.Span.Start], '\n') + 1
		f.edit(at, r.Line, start, min(len(text), start+lang.LineLength(text[start:])+1), "")
	}
}

// replace writes a whole name anew, wherever it stands in a file.
func (f *follower) replace(at string, text []byte, old, new string) {
	for i := range lang.Every(text, old) {
		end := i + len(old)
		if i > 0 && (lang.WordByte(text[i-1]) || text[i-1] == '.') || end < len(text) && lang.WordByte(text[end]) && old[len(old)-1] != '*' {
			continue
		}
		line, _ := refs.Place(text, lang.At(i, i+1))
		f.edit(at, line, i, end, new)
	}
}
