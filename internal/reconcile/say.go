package reconcile

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
)

// astray tells of a stray that has a home, or a few that are equally good.
func (r *reconciler) astray(s *stray, h *home, homes []string) finding.Finding {
	f := finding.Finding{Kind: h.kind, Level: finding.Warning, Path: s.Path(), Home: h.path, Entry: h.entry.Path(), Why: h.entry.Role}
	if h.entry.Need == layout.Must && h.wanted && (h.evidence >= Near || h.evidence == Shown) || h.evidence >= Declared && !s.drawn && h.entry.Need == layout.Must {
		f.Level = finding.Error
	}
	if h.evidence == Kind {
		f.Level = finding.Note
	}
	in := orTop(parentPath(h.path))
	f.Likely = !r.certain(s, h)
	f.IfIdle = f.Likely && h.evidence == Exact && s.Node().Folder == nil && h.makes == 0
	switch {
	case len(homes) > 1:
		f.Kind, f.Level, f.Home, f.Homes = finding.Misplaced, max(f.Level, finding.Warning), "", homes
		f.Message = fmt.Sprintf("it does not belong here; %d places fit equally well", len(homes))
	case h.kind == finding.Misnamed && h.slip < names.Apart:
		f.Message = fmt.Sprintf("it should be called %s (%s)", lastName(h.path), h.slip)
		if h.slip == names.Number && s.Node().Folder != nil {
			r.numbers[s.Folder] = append(r.numbers[s.Folder], f.Path)
		}
		if h.entry.Need == layout.May && h.slip == names.Typing && !names.Mistyped(s.Node().Name, strings.TrimSuffix(lastName(h.path), "/")) {
			f.Level = finding.Note // it may well be meant as it stands
		}
		if h.slip == names.Case && h.entry.Need != layout.Must && h.evidence < Referenced && r.knownAs(s.Path()) {
			f.Level = finding.Note // all who use it call it so
		}
	case h.kind == finding.Misnamed:
		f.Message = fmt.Sprintf("it should be called %s: %s", lastName(h.path), cmp.Or(h.says, "its text shows that it is that file"))
	case h.evidence == Told:
		f.Message = fmt.Sprintf("%s belong in %s", names.Uncapital(s.To.What), in)
	case h.says != "":
		f.Message = fmt.Sprintf("it belongs in %s: %s", in, h.says)
	case h.wanted:
		f.Message = fmt.Sprintf("it belongs in %s, which has none", in)
	default:
		f.Message = fmt.Sprintf("it belongs in %s", in)
	}
	return f
}

// knownAs says whether something of the project names what stands at a path.
func (r *reconciler) knownAs(at string) bool {
	return r.Graph != nil && len(r.Graph.To(strings.TrimPrefix(at, r.Top.Path()))) > 0
}

// certain says whether a home is one that something may be moved to unasked: what the file
// or another says, what the layout says of its folder, a slip, or a place that waits for it.
// Within its own unit, or called after a unit that is there, it stays where it is looked for.
func (r *reconciler) certain(s *stray, h *home) bool {
	switch {
	case h.evidence >= Near && h.evidence != Exact, len(h.gaps) > 0, h.kind == finding.Misnamed:
		return true
	case h.evidence == OfUnit && h.makes == 0, s.role != nil && h.evidence > Kind:
		return true
	}
	here, _ := r.Folder(s.Folder)
	return here.Entry != nil && here.Entry.Unit != "" && strings.HasPrefix(h.path, s.Folder.Path())
}

// extra tells of a stray without a home. What nobody said may not be here is
// only a note: the layout does not know it, and that is all.
func (r *reconciler) extra(s *stray) finding.Finding {
	f := finding.Finding{Kind: finding.Extra, Level: finding.Note, Path: s.Path()}
	in := orTop(s.Folder.Path())
	f.Message = fmt.Sprintf("%s knows nothing like it in %s", r.Layout.Name, in)
	here, _ := r.Folder(s.Folder)
	if here.State == placement.Placed {
		f.Entry, f.Why = here.Entry.Path(), here.Entry.Role
		f.Level = levelOf(here.Entry, f.Level)
	}
	e := s.Tentative
	switch {
	case s.To != nil:
		f.Level = finding.Warning
		f.Message = fmt.Sprintf("%s belong in %s", names.Uncapital(s.To.What), r.Called(s.To.Home, r.around(s)))
	case e == nil:
	case e.Need.Banned():
		f.Entry, f.Why, f.Level = e.Path(), e.Role, finding.Warning
		word := "should not"
		if e.Need == layout.MustNot {
			f.Level, word = finding.Error, "must not"
		}
		f.Message = fmt.Sprintf("it %s be here: %s", word, names.Uncapital(strings.TrimSuffix(e.Role, ".")))
	case e.Unit != "":
		f.Message = fmt.Sprintf("%s knows nothing like it in %s, and what is in it is not what a %s holds", r.Layout.Name, in, e.Unit)
	case e.Spellings[0].Exact != "":
		f.Entry, f.Why = e.Path(), e.Role
		if e.Need != layout.May {
			f.Level = finding.Warning
		}
		f.Message = fmt.Sprintf("%s has another spelling of it, which is here too; keep one", in)
		if other := r.standing(s, e); other != "" {
			f.Message = fmt.Sprintf("%s is here too, and means the same; keep one", other)
		}
	}
	return f
}

// levelOf gives the level of what a folder's entry says of all else in it.
func levelOf(e *layout.Entry, otherwise finding.Level) finding.Level {
	switch {
	case e.Others == layout.MustNot:
		return finding.Error
	case e.OthersSaid && e.Others == layout.ShouldNot:
		return finding.Warning
	}
	return otherwise
}

// standing gives the name under which an entry stands beside a second spelling.
func (r *reconciler) standing(s *stray, e *layout.Entry) string {
	for i := range s.Folder.Nodes {
		if n := &s.Folder.Nodes[i]; i != s.Index && r.Place(s.Folder, i).Entry == e {
			return lastName(pathIn(s.Folder, n.Name, e.Folder))
		}
	}
	return ""
}

// leastHabit is how many folders side by side that are called in the singular where the layout has the plural, or
// the other way about, are how the project has it, and no slip.
const leastHabit = 3

// throughout lets what a project does with all such folders be, but for a note.
func (r *reconciler) throughout() {
	for _, all := range r.numbers {
		if len(all) < leastHabit {
			continue
		}
		for i := range r.result.Findings {
			if f := &r.result.Findings[i]; f.Kind == finding.Misnamed && slices.Contains(all, f.Path) {
				f.Level = finding.Note
			}
		}
	}
}

// partners says whether a second spelling of a file uses the one that stands there, or is used by it: then
// they are two things, as a program that only starts is beside the server that it starts.
func (r *reconciler) partners(s *stray) bool {
	e := s.Tentative
	if e == nil || e.Folder || e.Unit != "" || e.Need.Banned() || e.Spellings[0].Exact == "" {
		return false
	}
	other := r.standing(s, e)
	if other == "" {
		return false
	}
	in := strings.TrimPrefix(s.Folder.Path(), r.Top.Path())
	uses := func(from, to string) bool {
		return slices.ContainsFunc(r.Graph.From(in+from), func(e refs.Edge) bool { return slices.Contains(e.To, in+to) })
	}
	return uses(other, s.Node().Name) || uses(s.Node().Name, other)
}

func (r *reconciler) missing(g *placement.Gap) finding.Finding {
	f := finding.Finding{Kind: finding.Missing, Level: finding.Warning, Entry: g.Entry.Path(), Why: g.Entry.Role}
	if g.Entry.Need == layout.Must {
		f.Level = finding.Error
	}
	name, complete := g.Name()
	if g.Entry.Wish || complete && f.Level == finding.Warning && r.Layout.Dir == "" && r.CommonName(name, g.Folder, g.Entry.Folder) != nil {
		f.Level = finding.Note // good housekeeping in any repository, and no demand of the framework
	}
	f.Path = pathIn(g.Folder, name, g.Entry.Folder)
	_, env := r.Folder(g.Folder)
	switch unit := r.ForUnit(g.Entry, env); {
	case unit != "":
		value, _ := g.Env.Get(unit)
		f.Kind, f.Message = finding.Unpaired, fmt.Sprintf("%s %s has no %s", unit, value, name)
		if strings.TrimSuffix(name, "/") == value {
			f.Message = fmt.Sprintf("%s %s has none: %s", unit, value, names.Uncapital(strings.TrimSuffix(g.Entry.Role, ".")))
		}
	case complete:
		f.Message = fmt.Sprintf("it %s be here: %s", g.Entry.Need, names.Uncapital(strings.TrimSuffix(g.Entry.Role, ".")))
	case g.Entry.AtLeast == 1:
		f.Message = fmt.Sprintf("%s %s hold at least one: %s", orTop(g.Folder.Path()), g.Entry.Need, names.Uncapital(strings.TrimSuffix(g.Entry.Role, ".")))
	default:
		f.Message = fmt.Sprintf("%s %s hold at least %d of them: %s", orTop(g.Folder.Path()), g.Entry.Need, g.Entry.AtLeast, names.Uncapital(strings.TrimSuffix(g.Entry.Role, ".")))
	}
	return f
}

// orTop names the repository's own folder, which has no path.
func orTop(path string) string { return cmp.Or(path, "the top folder") }
