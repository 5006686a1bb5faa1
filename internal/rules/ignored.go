package rules

import (
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/placement"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/tree"
)

var ignored = &Rule{
	Name: "ignored", Kind: finding.Exposed, Level: finding.Error, Always: true,
	Doc: "What version control should not see is named by an ignore file: settings of one machine, what programs make. What a program makes gives a warning.",
	Example: `- rule: ignored
  level: warning`,
	Run: func(c *Call) {
		found := map[string]*unseen{}
		var order []string
		c.exposed(c.Top, func(at string, n *tree.Node, e *layout.Entry) {
			// One line of an ignore file would do for all that are alike.
			key := fmt.Sprint(e.Path(), n.Ignored)
			if u := found[key]; u != nil {
				u.more = append(u.more, at)
				return
			}
			found[key] = &unseen{at: at, node: n, entry: e}
			order = append(order, key)
		})
		for _, u := range beside(found, order) {
			c.tell(u)
		}
	},
}

// beside puts what programs make in one folder together, in their order: one
// finding is enough for a build that nobody ignores.
func beside(found map[string]*unseen, order []string) []*unseen {
	var all []*unseen
	in := map[string]*unseen{}
	for _, key := range order {
		u := found[key]
		folder := fmt.Sprint(path.Dir(strings.TrimSuffix(u.at, "/")), u.node.Ignored)
		if first := in[folder]; first != nil && u.entry.MadeBy != "" && len(u.more) == 0 {
			first.more = append(first.more, u.at)
			continue
		}
		if u.entry.MadeBy != "" {
			in[folder] = u
		}
		all = append(all, u)
	}
	return all
}

// An unseen is what version control should not see, with how many more there
// are like it.
type unseen struct {
	at    string
	node  *tree.Node
	entry *layout.Entry
	more  []string
}

func (c *Call) tell(u *unseen) {
	like := ""
	if n := len(u.more); n > 3 {
		like = fmt.Sprintf(", nor %d more like it", n)
	} else if n > 0 {
		like = ", nor " + strings.Join(u.more, ", ")
	}
	message := "no ignore file names it" + like + ", so it will be committed"
	tracked := c.Tracks(c.Top.Path()+strings.TrimSuffix(u.at, "/"), u.node.Folder != nil)
	if tracked {
		message = "git tracks it" + strings.Replace(like, "nor", "and", 1)
		if u.node.Ignored {
			message = "an ignore file names it, and " + message + " all the same"
		} else {
			message += ", and no ignore file names it"
		}
		message += "; `git rm --cached` takes it out and leaves it on the disk"
		if u.node.Folder == nil && (c.secretive(u.at) || len(refs.Credentials(c.textOf(u.at))) > 0) {
			message += "; the history holds its keys too, so make them void where they came from"
		}
	}
	f := c.report(u.at, 0, 0, &finding.Place{Path: ".gitignore"}, "%s", message)
	if !tracked {
		c.unseen(f, append([]string{u.at}, u.more...))
	}
	f.Entry, f.Why = u.entry.Path(), u.entry.Role
	// What a program makes harms nobody; neither does what is only known in
	// general, but for the settings of a machine.
	// Of settings of a machine, those matter that hold a secret.
	env := strings.HasPrefix(path.Base(u.at), ".env")
	general := u.entry.Layout == c.Commonplace.Name && !env || env && !c.secretive(u.at)
	if f.Level == finding.Error && (u.entry.MadeBy != "" || general) {
		f.Level = finding.Warning
	}
}

// unseen puts right that no ignore file names paths: by an edit of the one at the top, or by
// a new one.
func (c *Call) unseen(f *finding.Finding, paths []string) {
	n := c.node(".gitignore")
	switch {
	case strings.ContainsAny(strings.Join(paths, ""), "*?[]!#\\ "):
	case n == nil:
		f.Unseen = paths
	case n.Kind == tree.File:
		text := c.textOf(".gitignore")
		f.Fix = []edit.Edit{c.edit(".gitignore", lang.At(len(text), len(text)), NamePaths(text, paths))}
	}
}

// NamePaths gives the lines that an ignore file at a project's top needs to name paths of it,
// for the end of its text.
func NamePaths(text []byte, paths []string) string {
	lines := make([]string, len(paths))
	for i, at := range paths {
		lines[i] = "/" + at
	}
	return atEnd(text, lines)
}

// atEnd gives lines as they are put at the end of a text, which need not end with one.
func atEnd(text []byte, lines []string) string {
	add := strings.Join(lines, "\n") + "\n"
	if len(text) > 0 && text[len(text)-1] != '\n' {
		add = "\n" + add
	}
	return add
}

// samples are folders whose files only look like what they are called.
var samples = []string{"testdata", "test-data", "test_data", "test-files", "test_files", "fixtures", "__fixtures__", "__snapshots__", ".snapshots", "vendor", "node_modules"}

// inSample says whether a path lies in a folder whose files only look like what
// they are called.
func inSample(at string) bool { return inFolder(at, isSample) }

// inFolder says whether a path lies in a folder whose name fits, at whatever depth.
func inFolder(at string, fits func(name string) bool) bool {
	return slices.ContainsFunc(strings.Split(path.Dir(at), "/"), fits)
}

// oneOf says whether a name is one of some.
func oneOf(some ...string) func(name string) bool {
	return func(name string) bool { return slices.Contains(some, name) }
}

// exposed goes through the folders that version control sees.
func (c *Call) exposed(in *tree.Folder, yield func(at string, n *tree.Node, e *layout.Entry)) {
	for i := range in.Nodes {
		n := &in.Nodes[i]
		if n.Kind == tree.Link || n.Ignored && !c.Tracks(in.Path()+n.Name, n.Folder != nil) {
			continue
		}
		place := c.Place(in, i)
		if place.State == placement.Apart {
			continue
		}
		e := place.Entry
		if e == nil {
			e = c.commonplace(in, n)
		}
		// What may be committed, of what programs make and of settings, is not once an ignore
		// file names it.
		own := e != nil && e.Git == "" && n.Ignored && (e.MadeBy != "" || n.Folder == nil && c.secretive(strings.TrimPrefix(in.Path()+n.Name, c.Top.Path())))
		if e == nil || e.Git != "ignored" && !own || n.Folder != nil && (n.Folder.Empty() || n.Folder.Kept()) || c.meant(in, n, e) {
			if n.Folder != nil && !n.Folder.Unread && !slices.Contains(samples, n.Name) {
				c.exposed(n.Folder, yield)
			}
			continue
		}
		name := n.Name
		if n.Folder != nil {
			name += "/"
		}
		yield(strings.TrimPrefix(in.Path()+name, c.Top.Path()), n, e)
	}
}

// meant says whether people mean to commit what is called as what no one should:
// scripts, or what only looks so, for tests. What a manager of packages installs is code as well.
func (c *Call) meant(in *tree.Folder, n *tree.Node, e *layout.Entry) bool {
	general := e.Layout == c.Commonplace.Name
	return general && (!e.Deep && c.byPeople(n.Folder) || e.Spellings[0].Exact == "" && forSamples(in)) || c.holdsScripts(n.Folder) && !ofData(n.Name)
}

// commonplace gives what is known of a name that the layout says nothing of.
func (c *Call) commonplace(in *tree.Folder, n *tree.Node) *layout.Entry {
	scope := c.Commonplace.Root.Scope
	if in == c.Top {
		if e := scope.Find(n.Name, n.Folder != nil); e != nil {
			return e
		}
	}
	return scope.Deep.Find(n.Name, n.Folder != nil)
}

// written are endings of what people write: a folder that holds one is not what a
// program made, whatever it is called.
var written = []string{".go", ".py", ".rs", ".java", ".kt", ".swift", ".dart", ".php", ".rb", ".cs", ".sql", ".tf"}

// built are endings of what only programs make.
var built = []string{".map", ".o", ".obj", ".class", ".jar", ".war", ".exe", ".dll", ".so", ".dylib", ".a", ".lib", ".pyc", ".whl", ".wasm", ".pdb"}

// byPeople says whether people wrote what is in a folder that is called as
// programs call theirs: scripts that build, and not what was built.
func (c *Call) byPeople(f *tree.Folder) bool {
	if f == nil {
		return false
	}
	scripts := len(f.Nodes) > 0 && !strings.HasPrefix(f.Name, ".")
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if slices.Contains(written, path.Ext(n.Name)) || n.Kind == tree.File && path.Ext(n.Name) == "" && c.isScript(f.Path()+n.Name) {
			return true
		}
		scripts = scripts && (n.Folder == nil || c.byPeople(n.Folder)) && !slices.Contains(built, path.Ext(n.Name)) &&
			!strings.Contains(n.Name, ".min.") && !strings.HasSuffix(n.Name, ".d.ts") && n.Name != "index.html" && !c.isProgram(f.Path()+n.Name)
	}
	return scripts
}

// ofScripts are folders of scripts that build, beside which lies what these go by.
var ofScripts = []string{"scripts", "tools", "ci"}

// holdsScripts says whether a folder holds scripts or code, files that go with them and nothing that
// was built: no program makes that.
func (c *Call) holdsScripts(f *tree.Folder) bool {
	if f == nil {
		return false
	}
	if slices.ContainsFunc(ofScripts, func(name string) bool { n := f.Find(name); return n != nil && c.holdsScripts(n.Folder) }) {
		return true
	}
	scripts := false
	for i := range f.Nodes {
		n := &f.Nodes[i]
		at := f.Path() + n.Name
		if n.Folder != nil || slices.Contains(built, path.Ext(n.Name)) || n.Kind == tree.File && c.isProgram(at) {
			return false
		}
		scripts = scripts || n.Kind == tree.File && (slices.Contains(written, path.Ext(n.Name)) || c.isScript(at))
	}
	return scripts
}

// isScript says whether a file says which program runs it.
func (c *Call) isScript(at string) bool {
	text, err := c.Repository.Text(at)
	return err == nil && strings.HasPrefix(string(text), "#!")
}

// isProgram says whether a file without an ending is none of text.
func (c *Call) isProgram(at string) bool {
	if path.Ext(at) != "" {
		return false
	}
	text, err := c.Repository.Text(at)
	return err == nil && strings.Contains(string(text[:min(len(text), 1024)]), "\x00")
}

// forSamples says whether a folder, or one around it, holds what tests and
// examples need: what looks left behind there may be meant.
func forSamples(f *tree.Folder) bool {
	for ; f.Parent != nil; f = f.Parent {
		if isSample(f.Name) {
			return true
		}
	}
	return false
}

// ofData says whether a folder of that name holds data for tests, or the code of others.
func ofData(name string) bool {
	return slices.Contains(samples, name) || strings.HasSuffix(name, "testdata")
}

// ofTests is what folders are called of what tests share.
var ofTests = lazy.New(`^test(?:ing|utils?|helpers?|lib|cases?|certs?|suites?|support|resources?|assets?|files?)$`)

// isSample says whether a folder of that name holds what only looks like what it
// is called: data for tests, uses to learn from, the code of others.
func isSample(name string) bool {
	if name == ".snapshots" {
		return true
	}
	switch name = strings.ToLower(strings.TrimLeft(name, "_.")); name {
	case "fixture", "spec", "specs", "e2e", "example", "examples", "sample", "samples", "demo", "demos", "contrib", "docs", "doc", "integration", "tutorial", "tutorials", "mocks", "acceptance", "molecule":
		return true
	}
	return ofData(name) || ofTests.MatchString(name) || strings.HasPrefix(name, "fixtures_") || strings.HasPrefix(name, "fixtures-") || strings.HasSuffix(name, "test") || strings.HasSuffix(name, "tests")
}
