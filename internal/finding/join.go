package finding

import (
	"fmt"
	"path"
	"slices"
	"strings"
)

// Join leaves out what carrying another finding out would end: one cause gives
// one finding. What stays wrong afterwards is told. Findings without a rule are
// those of the tree.
func Join(all []Finding) []Finding {
	left, _ := Split(all)
	return left
}

// Split parts findings as Join does: those that are told, and those that carrying
// one of them out would end.
func Split(all []Finding) (told, ended []Finding) {
	all = homedOnce(goneBack(named(all)))
	c, credentials, astray := causesIn(all), map[string]bool{}, map[string]bool{}
	drops := make([]bool, len(all))
	for i := range all {
		f := &all[i]
		if f.Rule != "" && f.Kind == Exposed && f.Line > 0 {
			// Once the file is no longer seen, neither is the credential in it; and one
			// credential is one finding, whoever found it.
			at := fmt.Sprint(f.Path, ":", f.Line)
			drops[i] = credentials[at] || within(c.open, f.Path)
			credentials[at] = true
		} else {
			drops[i] = c.end(f)
		}
		switch {
		case drops[i]:
		case f.Kind == Misplaced || f.Kind == Misdeclared && f.Home != "":
			astray[f.Path] = true
		case f.Back != "":
			astray[f.Meant] = true
		}
	}
	for i, f := range all {
		if drops[i] || f.OfMove && astray[f.Path] {
			ended = append(ended, f)
		} else {
			told = append(told, f)
		}
	}
	return told, ended
}

// causes are what findings say is to be done, by the paths that it concerns.
type causes struct {
	made, moved map[string]bool   // what will be there, and what leaves its place
	leave, open map[string]bool   // what a rule knows, and what git is to lose
	unknown     map[string]bool   // what the layout does not know
	copied      map[string]bool   // what is a copy of something
	misled      map[string]bool   // see misled
	back        map[string]bool   // what others look for elsewhere
	linked      map[string]bool   // the file that names something wrongly, and what it means
	homes       map[string]string // where the tree says that something belongs
	called      map[string]string // what folders are called, by the name that what lies in them says
}

func causesIn(all []Finding) *causes {
	c := &causes{made: map[string]bool{}, moved: map[string]bool{}, leave: map[string]bool{}, open: map[string]bool{}, unknown: map[string]bool{}, copied: map[string]bool{},
		back: map[string]bool{}, linked: map[string]bool{}, homes: map[string]string{}, called: map[string]string{}}
	for i := range all {
		f := &all[i]
		if f.Kind == Leftover && f.Other != nil {
			c.copied[f.Path], c.leave[f.Path] = true, true
		}
		if f.Kind == Extra { // once it is gone from there, nothing is wrong with it there
			c.unknown[f.Path] = true
		}
		switch {
		case f.Rule != "" && (f.Kind == Misplaced || f.Kind == Misnamed):
			c.made[f.Home] = f.Home != ""
			if f.Kind == Misnamed && strings.HasSuffix(f.Path, "/") {
				c.called[path.Base(f.Home)] = path.Base(f.Path)
			}
		case f.Kind == Misdeclared:
			c.made[f.Path] = !strings.HasSuffix(f.Path, "/") // of a folder its own files say otherwise, and not those below
			for _, at := range f.Also {
				c.made[at] = true
			}
			c.made[f.Home] = f.Home != ""
		case f.Rule != "":
		case f.Kind == Missing || f.Kind == Unpaired:
			c.made[f.Path] = true
		case f.Kind == Misplaced || f.Kind == Misnamed:
			c.moved[f.Path] = true
			c.made[f.Home] = f.Home != ""
			c.homes[f.Path] = f.Home
		}
		// Where a rule knows what an unknown file is, that says more.
		if f.Rule != "" && (f.Kind == Misdeclared || f.Kind == Dangling && f.Level == Error || f.Home != "" || f.Kind == Exposed && f.Line == 0) {
			c.leave[f.Path] = true
			c.open[f.Path] = f.Kind == Exposed
		}
		if f.Kind == Dangling && f.Meant != "" {
			c.linked[f.Path+" "+f.Meant] = true
		}
		if f.Back != "" {
			c.back[f.Meant] = true
		}
	}
	c.misled = misled(all, c.linked)
	return c
}

// end says whether a finding would be no more once its cause is done.
func (c *causes) end(f *Finding) bool {
	switch {
	case f.Rule == "" && f.Kind == Misnamed && c.called[path.Base(f.Path)] == path.Base(f.Home):
		return true // it has the name that the other one is to have
	case f.Rule == "":
		return f.Kind == Extra && (c.leave[f.Path] || holdsOne(c.back, f.Path)) || f.Kind == Empty && holds(c.made, strings.TrimSuffix(f.Path, "/"))
	case f.Home != "" && c.homes[f.Path] == f.Home:
		return true // that is said already
	case c.copied[f.Path] && (f.Kind == Unwired || f.Kind == Misdeclared || f.Kind == Misnamed || f.Kind == Unpaired || f.OfMove):
		return true // nobody wants it to be used
	case f.Kind == Disagrees && f.Other != nil && (c.open[f.Other.Path] || c.linked[f.Other.Path+" "+f.About]):
		return true // it is to go, or what is asked for there only has a wrong name
	case f.Kind == Disagrees && f.Line == 0 && c.unknown[f.Path], f.Kind == Unwired && (c.misled[f.Path] || c.back[f.Path]), f.Kind == Unpaired && c.back[f.Path]:
		return true
	}
	return ends(c.made, c.moved, f)
}

// misled gives the units that nothing wires since the line that should do it only names them
// wrongly: it was likely to lead there, or one line leads nowhere in the folder of one unit.
func misled(all []Finding, linked map[string]bool) map[string]bool {
	lines, units := map[string]int{}, map[string][]string{}
	for i := range all {
		switch f := &all[i]; {
		case f.Kind == Dangling:
			in := map[string]bool{}
			for _, at := range f.Sought {
				in[path.Dir(at)] = true
			}
			for dir := range in {
				lines[f.Path+" "+dir]++
			}
		case f.Kind == Unwired && f.Other != nil:
			from := f.Other.Path + " " + path.Dir(f.Path)
			units[from] = append(units[from], f.Path)
		}
	}
	found := map[string]bool{}
	for from, in := range units {
		wirer, _, _ := strings.Cut(from, " ")
		for _, at := range in {
			found[at] = linked[wirer+" "+at] || len(in) == 1 && lines[from] == 1 || slices.ContainsFunc(all, func(f Finding) bool {
				return f.Kind == Dangling && f.Meant != "" && (f.Meant == at || path.Dir(f.Path) == path.Dir(wirer) && strings.HasPrefix(at, strings.TrimSuffix(f.Meant, "/")+"/"))
			})
		}
	}
	return found
}

// named gives files that are looked for where they say that they are that home: what they
// declare is right, and where they lie is not.
func named(all []Finding) []Finding {
	sought := func(declared string) bool {
		return slices.ContainsFunc(all, func(f Finding) bool {
			return f.Kind == Dangling && slices.ContainsFunc(f.Sought, func(at string) bool {
				fits, _ := path.Match(at, declared)
				return fits || at == declared
			})
		})
	}
	if !slices.ContainsFunc(all, func(f Finding) bool { return f.Declared != "" }) {
		return all
	}
	all = slices.Clone(all)
	for i := range all {
		f := &all[i]
		if f.Kind != Misdeclared || f.Declared == "" || !sought(f.Declared) {
			continue
		}
		f.Home, f.Fix = f.Declared, nil
		if f.ByRole {
			f.Kind = Misplaced
		}
	}
	return all
}

// homedOnce leaves out a home of something that has another one below that.
func homedOnce(all []Finding) []Finding {
	homes := map[string][]string{}
	for i := range all {
		if f := &all[i]; f.Rule == "" && f.Kind == Misplaced && f.Home != "" {
			homes[f.Path] = append(homes[f.Path], f.Home)
		}
	}
	return slices.DeleteFunc(slices.Clone(all), func(f Finding) bool {
		return f.Rule == "" && f.Kind == Misplaced && f.Home != "" && slices.ContainsFunc(homes[f.Path], func(o string) bool {
			return o != f.Home && strings.HasPrefix(o, path.Dir(f.Home)+"/")
		})
	})
}

// SendBack makes of a finding that a file belongs where a line of another looks for it, and so
// many more.
func (f *Finding) SendBack(at, home string, by Place, more int) {
	f.Kind, f.Path, f.Home, f.Other = Misplaced, at, home, &by
	in, also := path.Dir(home)+"/", ""
	if in == "./" {
		in = "the top folder"
	}
	if more > 0 {
		also = fmt.Sprintf(", and %d more,", more)
	}
	f.Message = fmt.Sprintf("it belongs in %s: %s:%d%s looks for it there", in, by.Path, by.Line, also)
}

// goneBack gives files that are looked for below where they belong that home, and those of which
// nothing is known where they lie the one that they are looked for at.
func goneBack(all []Finding) []Finding {
	back, homes := map[string]*Finding{}, map[string]*Finding{} // by what was meant, and by where it goes
	for i := range all {
		if f := &all[i]; f.Back != "" {
			back[f.Meant], homes[f.Back] = f, f
		}
	}
	if len(back) == 0 {
		return all
	}
	all = slices.Clone(all)
	for i := range all {
		f := &all[i]
		by := back[f.Path]
		if wanted := homes[f.Path]; wanted != nil && f.Kind == Missing && f.Rule == "" && f.More == 0 {
			f.SendBack(wanted.Meant, f.Path, Place{Path: wanted.Path, Line: wanted.Line}, 0)
			continue
		}
		switch {
		case by == nil || f.Rule != "":
		case f.Kind == Misplaced && strings.HasPrefix(by.Back, path.Dir(f.Home)+"/"):
			f.Home = by.Back
		case f.Kind == Extra && by.Kind == Dangling && len(f.Also) == 0: // nothing is known of it here
			f.SendBack(f.Path, by.Back, Place{Path: by.Path, Line: by.Line}, 0)
			f.Level = min(f.Level, Warning)
			by.Sought = append(slices.Clone(by.Sought), by.Back)
		}
	}
	return all
}

// ends says whether a rule would say no more of something once what is absent
// is made and what is astray is moved.
func ends(made, moved map[string]bool, f *Finding) bool {
	switch f.Kind {
	case Dangling:
		return slices.ContainsFunc(f.Sought, func(at string) bool {
			return within(made, at) || holds(made, at) || strings.Contains(at, "*") && fitsOne(made, at)
		})
	case Disagrees, Misdeclared, Unpaired, Unwired:
		return f.Kind == Unwired && slices.ContainsFunc(f.Sought, func(at string) bool { return made[at] }) || f.Other != nil && within(made, f.Other.Path) || f.Home == "" && moved[f.Path]
	case Tangled, Exposed:
		return f.Home == "" && moved[f.Path] && f.Kind == Tangled
	}
	return false
}

// fitsOne says whether one of the paths fits a pattern.
func fitsOne(paths map[string]bool, pattern string) bool {
	for at, made := range paths {
		if fits, _ := path.Match(pattern, at); fits && made {
			return true
		}
	}
	return false
}

// holds says whether one of the paths lies below a folder: it comes with them.
func holds(paths map[string]bool, folder string) bool {
	for path, made := range paths {
		if made && strings.HasPrefix(path, folder+"/") {
			return true
		}
	}
	return false
}

// holdsOne says whether one of the paths lies right in a folder, given with its slash.
func holdsOne(paths map[string]bool, folder string) bool {
	for at, is := range paths {
		if is && path.Dir(at)+"/" == folder {
			return true
		}
	}
	return false
}

// within says whether the path, or a folder around it, is among those given.
func within(paths map[string]bool, path string) bool {
	if paths[path] || paths[path+"/"] {
		return true
	}
	for i := len(path) - 1; i > 0; i-- {
		if path[i] == '/' && paths[path[:i+1]] {
			return true
		}
	}
	return false
}
