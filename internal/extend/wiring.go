package extend

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/names"
	"dicaxon/internal/realign"
	"dicaxon/internal/refs"
	"dicaxon/internal/scaffold"
	"dicaxon/internal/workspace"
)

// Wire gives the edits that a new unit needs in files that stand once for all units, as
// the layout's own starters of those files show: a line that the starter has for each unit
// is written for the new one, too, behind that of another or, where there is none, behind
// the line that comes before it in the starter. Of files in strict, only what their starters
// have counts.
func Wire(w *workspace.Workspace, p *workspace.Project, unit, value string, strict map[string]bool) []edit.Edit {
	units, answers := p.Placement.UnitNames(), realign.Answers(p)
	known := slices.DeleteFunc(slices.Clone(units[unit]), func(u string) bool { return u == value })
	with := map[string][]string{}
	without := map[string][]string{}
	for name, all := range units {
		with[name], without[name] = all, all
	}
	with[unit], without[unit] = append(slices.Clone(known), value), known
	var all []edit.Edit
	for _, e := range p.Layout.Entries {
		if e.Starter == "" || e.Folder || e.Parent == nil {
			continue
		}
		for _, s := range p.Placement.Spots(e) {
			if s.Folder == nil || s.Open {
				continue
			}
			name, whole := e.Name(s.Env)
			if !whole || s.Folder.Find(name) == nil {
				continue
			}
			a, err := scaffold.Part(p.Layout, e, s.Path, s.Env, answers, with)
			b, again := scaffold.Part(p.Layout, e, s.Path, s.Env, answers, without)
			if err != nil || again != nil || len(a) != 1 || len(b) != 1 || string(a[0].Text) == string(b[0].Text) {
				continue
			}
			at := p.Placement.Top.Path() + s.Path + name
			text, err := w.Repository.Text(at)
			if err != nil {
				continue
			}
			if strict[at] {
				all = append(all, fromStarter(at, string(text), string(a[0].Text), string(b[0].Text))...)
				continue
			}
			all = append(all, wired(at, string(text), string(a[0].Text), string(b[0].Text), known, value)...)
		}
	}
	return all
}

// wired gives the edits of one file.
func wired(at, text, with, without string, known []string, value string) []edit.Edit {
	if item := itemMore(at, with, without); item != nil {
		return item.in(at, text)
	}
	code := string(refs.Code(at, []byte(text)))
	var all []edit.Edit
	for _, add := range names.Repeated(text, code, known, value) {
		if (add.Rows < 2 || !refs.IsCode(at) || path.Ext(at) == ".md") && !inStarter(with, add.Text, value) {
			continue // of one line nobody can tell whether each unit has one
		}
		add.Text = inWords(asInStarter(with, add.Text), known, value)
		if slices.ContainsFunc(all, func(e edit.Edit) bool { return e.Text == add.Text }) {
			continue // beside another of its kind it stands already
		}
		line, _ := refs.Place([]byte(text), refs.Span{Start: int32(add.At), End: int32(add.At)})
		all = append(all, edit.Edit{Path: at, Line: line, Start: add.At, End: add.At, Text: add.Text})
	}
	if len(all) > 0 {
		return all
	}
	return fromStarter(at, text, with, without)
}

// An item is one of a list of YAML that a starter has more, of several lines, with the line that stands before it.
type item struct{ before, lines string }

// itemMore gives the item of several lines that a starter of YAML has more for a unit, nil where it has none: such a
// one goes into the list whole, since its lines mean nothing one by one.
func itemMore(at, with, without string) *item {
	if ending := path.Ext(at); ending != ".yml" && ending != ".yaml" {
		return nil
	}
	more, less := strings.SplitAfter(with, "\n"), strings.SplitAfter(without, "\n")
	start, end := 0, 0
	for start < len(less) && more[start] == less[start] {
		start++
	}
	for end < len(less)-start && more[len(more)-1-end] == less[len(less)-1-end] {
		end++
	}
	lines := more[start : len(more)-end]
	if start == 0 || start+end < len(less) || len(lines) < 2 || !strings.HasPrefix(strings.TrimSpace(lines[0]), "- ") || !strings.HasPrefix(lines[1], indentOf(lines[0])+" ") {
		return nil
	}
	return &item{strings.TrimSpace(more[start-1]), strings.Join(lines, "")}
}

// indentOf gives the blanks that a line begins with.
func indentOf(line string) string { return line[:len(line)-len(strings.TrimLeft(line, " "))] }

// in gives the edit that puts the item into a text, behind the line that stands before it in the starter, where the
// text has that once.
func (i *item) in(at, text string) []edit.Edit {
	if i.before == "" || strings.Count(text, i.before+"\n") != 1 || strings.Contains(text, i.lines) {
		return nil
	}
	end := strings.Index(text, i.before+"\n") + len(i.before) + 1
	return []edit.Edit{{Path: at, Line: strings.Count(text[:end], "\n") + 1, Start: end, End: end, Text: i.lines}}
}

// inWords writes the words of a new unit where a line has those of another with spaces between them,
// as a text for people has them.
func inWords(line string, known []string, value string) string {
	said := strings.Join(names.Words(value), " ")
	for _, unit := range known {
		words := names.Words(unit)
		if len(words) < 2 {
			continue
		}
		old := strings.Join(words, " ")
		if i := strings.Index(strings.ToLower(line), old); i >= 0 {
			text := said
			if line[i] != old[0] {
				text = strings.ToUpper(said[:1]) + said[1:]
			}
			line = line[:i] + text + line[i+len(old):]
		}
	}
	return line
}

// inStarter says whether a starter has a line for a unit that is much like a text: most of
// their words are the same.
func inStarter(with, text, value string) bool {
	words := names.Identifiers(text)
	for line := range strings.SplitSeq(with, "\n") {
		theirs := names.Identifiers(line)
		if !strings.Contains(strings.ToLower(strings.Join(theirs, " ")), strings.ToLower(names.Singular(names.Words(value)[0]))) {
			continue
		}
		same := 0
		for _, w := range words {
			if slices.Contains(theirs, w) {
				same++
			}
		}
		if same*2 >= len(words) && same*2 >= len(theirs) {
			return true
		}
	}
	return false
}

// asInStarter writes a line as the starter has it, where that is the same but for how its
// names are written.
func asInStarter(with, text string) string {
	plain := strings.TrimSpace(text)
	for line := range strings.SplitSeq(with, "\n") {
		if line = strings.TrimSpace(line); line != plain && slices.Equal(names.Words(line), names.Words(plain)) && len(names.Words(line)) > 1 {
			return strings.Replace(text, plain, line, 1)
		}
	}
	return text
}

// fromStarter puts the lines that the starter has more behind the line that stands before
// them there, where the file has that line once.
func fromStarter(at, text, with, without string) []edit.Edit {
	more, less := strings.SplitAfter(with, "\n"), strings.SplitAfter(without, "\n")
	var all []edit.Edit
	for i, k := 0, 0; i < len(more); i++ {
		if k < len(less) && more[i] == less[k] {
			k++
			continue
		}
		if i == 0 || strings.TrimSpace(more[i]) == "" || strings.Contains(text, strings.TrimSpace(more[i])) {
			continue
		}
		changed := k < len(less) && strings.TrimSpace(less[k]) != "" && !slices.Contains(more, less[k]) // a line that reads otherwise then
		if changed {
			if grown, there := listGrown(at, text, more[i], less[k]); there {
				all = append(all, grown...)
				k++
				continue
			}
		}
		block, start := more[i], i-1
		for start > 0 && strings.TrimSpace(more[start]) == "" {
			start--
		}
		before := strings.TrimSpace(more[start])
		if before == "" || strings.Count(text, before) != 1 {
			continue
		}
		place := strings.Index(text, before)
		end := strings.IndexByte(text[place:], '\n')
		if end < 0 {
			continue
		}
		line := strings.Count(text[:place], "\n") + 2
		all = append(all, edit.Edit{Path: at, Line: line, Start: place + end + 1, End: place + end + 1, Text: block})
		if changed {
			k++
		}
	}
	return all
}

// listGrown gives the edit that puts what a list of the starter has more into that of a text, where a line
// there begins as it does: there says so, also where nobody can tell how.
func listGrown(at, text, more, less string) (all []edit.Edit, there bool) {
	begins, list, found := strings.Cut(less, "[")
	_, grown, ok := strings.Cut(more, "[")
	start := strings.Index("\n"+text, "\n"+begins+"[")
	if !found || !ok || start < 0 || strings.TrimSpace(begins) == "" || !strings.HasPrefix(more, begins) {
		return nil, false
	}
	items := slices.DeleteFunc(listItems(grown), func(item string) bool { return slices.Contains(listItems(list), item) })
	if len(items) != 1 {
		return nil, false
	}
	line, _, _ := strings.Cut(text[start:], "\n")
	end, added := strings.LastIndexByte(line, ']'), items[0]
	if end < 0 {
		return nil, true
	}
	if before := strings.TrimSpace(line[:end]); !strings.HasSuffix(before, "[") && !strings.HasSuffix(before, ",") {
		added = ", " + added
	}
	return []edit.Edit{{Path: at, Line: strings.Count(text[:start], "\n") + 1, Start: start + end, End: start + end, Text: added}}, true
}

// listItems gives what stands between commas, up to the end of a list.
func listItems(list string) (all []string) {
	list, _, _ = strings.Cut(list, "]")
	for item := range strings.SplitSeq(list, ",") {
		all = append(all, strings.TrimSpace(item))
	}
	return all
}
