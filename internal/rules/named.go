package rules

import (
	"context"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs"
	"dicaxon/internal/workspace"
)

// A Named is a name in a text by which a framework finds a file.
type Named struct {
	From string // the file that says it, below the project
	Span refs.Span
	Name string
	To   string // the file or folder that it stands for, "" for none that is there
	// Anew gives the name by which it would be found elsewhere, "" where none would.
	Anew func(from, to string) string
	// Holds is, of a folder, the ending of the files for which it is named.
	Holds string
	// Block gives the block that the line which says it has to stand in once it is to stand for a file elsewhere, and
	// whether it has to; nil where names of the kind stand in none.
	Block func(line, to string) (Block, bool)
}

// NamedFiles lists the names in a project's texts that stand for files, as the rules of its
// layout say.
func NamedFiles(ctx context.Context, of *workspace.Project) []Named {
	calls, err := Compile(of.Layout, of.Placement.Commonplace)
	if err != nil {
		return nil // a check has said so
	}
	p := &project{Placement: of.Placement, moves: map[string]string{}}
	_, p.env = p.Folder(p.Top)
	var all []Named
	for _, c := range calls {
		if c.rule == keysNameFolders {
			c.project = p
			all = append(all, c.foldersNamed()...)
			continue
		}
		if c.rule != lookedUp || len(c.texts("to")) == 0 || c.flag("module") || ctx.Err() != nil {
			continue
		}
		c.project = p
		// Where the layout's own place is not there, a name may mean something else; what it
		// does lead to all the same it leads to.
		elsewhere := c.paths["where"] != nil && len(c.files("where")) == 0
		for _, s := range c.spoken(c.files("files")) {
			found := c.namedBy(s)
			if found == nil && !elsewhere { // it stands for what is not there, or comes from elsewhere
				found = []Named{{From: s.file.path, Span: s.at, Name: s.name}}
			}
			all = append(all, found...)
		}
	}
	return all
}

// namedBy gives the files that a name stands for, with the pattern that finds each.
func (c *Call) namedBy(s spoken) (all []Named) {
	for _, to := range c.texts("to") {
		beside := strings.HasPrefix(to, "./")
		at := fill(places(to, s.name), s.file.env, c.env)
		if beside {
			at = path.Join(path.Dir(s.file.path), at)
		}
		there := c.standing(at)
		if len(there) == 0 && !strings.Contains(at, "*") && c.isFolder(at) {
			there = []string{at}
		}
		for _, found := range there {
			if slices.ContainsFunc(all, func(n Named) bool { return n.To == found }) {
				continue
			}
			form := fill(to, s.file.env, c.env)
			anew := func(from, to string) string {
				form := form
				if beside {
					form = path.Join(path.Dir(from), strings.TrimPrefix(form, "./"))
				}
				return begunAs(s.name, inverse(form, to))
			}
			n := Named{From: s.file.path, Span: s.at, Name: s.name, To: found, Anew: anew}
			if c.text("block") != "" {
				n.Block = func(line, to string) (Block, bool) { return c.blockOf(line, found, to) }
			}
			all = append(all, n)
		}
	}
	return all
}

// begunAs begins a name as it was begun before: without "./" some tools look elsewhere.
func begunAs(before, name string) string {
	if strings.HasPrefix(before, "./") && name != "" && !strings.HasPrefix(name, ".") {
		return "./" + name
	}
	return name
}

// inverse gives the name that a form puts in the place of its braces to make a path, ""
// where no name does, or where the form changes it in a way that cannot be turned round.
func inverse(form, at string) string {
	open := strings.IndexByte(form, '{')
	shut := strings.IndexByte(form, '}')
	if open < 0 || shut < open || strings.Count(form, "{") != 1 {
		return ""
	}
	before, kind, behind := form[:open], form[open:shut+1], form[shut+1:]
	rest, anywhere := before, false
	if i := strings.LastIndex(before, "**/"); i >= 0 {
		if !strings.HasPrefix(at, before[:i]) {
			return ""
		}
		rest, anywhere = before[i+len("**/"):], true
	}
	switch i := strings.LastIndex("/"+at, "/"+rest); {
	case anywhere && rest == "": // in any folder, so that no folder counts
		at = path.Base(at)
	case anywhere && i < 0, !anywhere && !strings.HasPrefix(at, rest):
		return ""
	case anywhere:
		at = at[i+len(rest):]
	default:
		at = at[len(rest):]
	}
	if stem, open := strings.CutSuffix(behind, ".*"); open {
		name, _, _ := strings.Cut(path.Base(at), ".")
		at, behind = path.Join(path.Dir(at), name)+stem, stem
	}
	at, ok := strings.CutSuffix(at, behind)
	if !ok || at == "" {
		return ""
	}
	switch kind {
	case "{}":
		return at
	case "{/}":
		if strings.Contains(at, ".") {
			return ""
		}
		return strings.ReplaceAll(at, "/", ".")
	}
	return ""
}
