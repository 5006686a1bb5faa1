package workspace

import (
	"errors"
	"io/fs"
	"path"
	"path/filepath"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
	"dicaxon/internal/tree"
)

// FileName is the name of the file that says which project follows which layout.
const FileName = "dicaxon.yaml"

// AcceptedName is the file, in the folder that it holds for, with the findings
// that are accepted for now.
const AcceptedName = "dicaxon-accepted.json"

// A Choice is one project that the file names.
type Choice struct {
	At      string // its folder below the repository's root; "." for the root itself
	Layout  *layout.Layout
	Answers map[string]string
}

// A File is what one dicaxon.yaml says. It holds for the folder that it lies in.
type File struct {
	Path     string // of the file, below the repository's root
	Folder   string // that it holds for: "" for all of the repository, else ends in "/"
	Projects []Choice
	Levels   map[string]string // by kind or by the name of a rule: a level or "off"
	Waivers  []Waiver
}

// parse reads the text of a dicaxon.yaml in a folder of a repository. A complaint
// about it is a *source.Error.
func parse(r *tree.Repository, in *tree.Folder, text []byte) (*File, error) {
	f := &File{Path: in.Path() + FileName, Folder: in.Path()}
	n, err := source.Parse(f.Path, text)
	if err != nil {
		return nil, err
	}
	return f, f.take(r, n)
}

func (f *File) take(r *tree.Repository, n *source.Node) error {
	if err := keysOf(n, "this file", "dicaxon", "projects", "levels", "waivers"); err != nil {
		return err
	}
	version := n.Get("dicaxon")
	if version == nil || version.Text != layout.Version {
		return n.Errorf("the file begins with dicaxon: %s, the version of its language", layout.Version)
	}
	list := n.Get("projects")
	if list == nil && n.Get("levels") == nil && n.Get("waivers") == nil || list != nil && (list.Kind != source.Sequence || len(list.Items) == 0) {
		return n.Errorf(`"projects" lists the projects, each with its layout`)
	}
	seen := map[string]bool{}
	for i := 0; list != nil && i < len(list.Items); i++ {
		item := list.Items[i]
		p, err := f.choice(r, item)
		if err != nil {
			return err
		}
		if seen[p.At] {
			return item.Errorf("the project at %q stands here twice", p.At)
		}
		seen[p.At] = true
		f.Projects = append(f.Projects, p)
	}
	var err error
	if f.Levels, err = readLevels(n.Get("levels")); err != nil {
		return err
	}
	f.Waivers, err = readWaivers(n.Get("waivers"))
	return err
}

func keysOf(n *source.Node, what string, known ...string) error {
	if n.Kind != source.Mapping {
		return n.Errorf("%s is written as keys with values, not as %s", what, n.Kind)
	}
next:
	for _, pair := range n.Pairs {
		for _, k := range known {
			if pair.Key.Text == k {
				continue next
			}
		}
		if meant := names.Closest(pair.Key.Text, known); meant != "" {
			return pair.Key.Errorf("%q is no key of %s; did you mean %q?", pair.Key.Text, what, meant)
		}
		return pair.Key.Errorf("%q is no key of %s; it has %s", pair.Key.Text, what, strings.Join(known, ", "))
	}
	return nil
}

func (f *File) choice(r *tree.Repository, n *source.Node) (p Choice, err error) {
	if err := keysOf(n, "a project", "at", "layout", "answers"); err != nil {
		return p, err
	}
	p.At = path.Clean("./" + f.Folder)
	if at := n.Get("at"); at != nil {
		if p.At, err = f.folder(r, at); err != nil {
			return p, err
		}
	}
	name := n.Get("layout")
	if name == nil {
		return p, n.Errorf(`a project names its "layout"`)
	}
	if _, err := name.String("layout"); err != nil {
		return p, err
	}
	c := catalogue.Catalogue{Dir: filepath.Join(r.Root, filepath.FromSlash(f.Folder))}
	if p.Layout, err = c.Layout(name.Text); errors.Is(err, fs.ErrNotExist) {
		return p, name.Errorf("%s", NoLayout(name.Text))
	} else if err != nil {
		return p, err
	}
	p.Answers, err = readAnswers(n.Get("answers"), p.Layout)
	return p, err
}

// folder reads where a project is.
func (f *File) folder(r *tree.Repository, n *source.Node) (string, error) {
	at, err := n.String("at")
	if err != nil {
		return "", err
	}
	clean := path.Clean(at)
	if at == "" || !fs.ValidPath(clean) {
		return "", n.Errorf("%q is no folder of the repository; write its path below the root, with /", at)
	}
	full := path.Join(f.Folder, clean)
	if full == "." {
		return full, nil
	}
	if there := r.Top.At(full); there == nil || there.Folder == nil {
		return "", n.Errorf("there is no folder %q in the repository", clean)
	}
	return full, nil
}

func readAnswers(n *source.Node, l *layout.Layout) (map[string]string, error) {
	answers := map[string]string{}
	if n == nil {
		return answers, nil
	}
	if n.Kind != source.Mapping {
		return nil, n.Errorf("answers is written as keys with values, not as %s", n.Kind)
	}
	for _, pair := range n.Pairs {
		value, err := pair.Value.Strings("an answer")
		if err != nil {
			return nil, err
		}
		answer := strings.Join(value, ",")
		if err := l.CheckAnswer(pair.Key.Text, answer); err != nil {
			return nil, pair.Key.Errorf("%v", err)
		}
		answers[pair.Key.Text] = answer
	}
	return answers, nil
}

// NoLayout says that there is no layout of that name, and which was likely
// meant.
func NoLayout(name string) string {
	known := catalogue.Catalogue{}.Names()
	switch meant := names.Closest(name, known); {
	case catalogue.IsPath(name):
		return "there is no layout in " + name + ": a layout's folder holds a " + layout.FileName
	case meant != "":
		return "there is no layout " + name + "; did you mean " + meant + "?"
	}
	var family []string
	for _, k := range known {
		if layout.Family(k) == layout.Family(name) {
			family = append(family, k)
		}
	}
	if len(family) > 0 {
		return "there is no layout " + name + "; " + layout.Family(name) + " has " + strings.Join(family, ", ")
	}
	return "there is no layout " + name + "; `dicaxon layouts` lists them"
}
