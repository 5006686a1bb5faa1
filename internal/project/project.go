// Package project reads dicaxon.yaml, which says which project of a repository
// follows which layout, how grave findings are, and which are waived.
package project

import (
	"errors"
	"io/fs"
	"os"
	"path"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// FileName is the name of the file, at the root of a repository.
const FileName = "dicaxon.yaml"

// A Project is one entry of the file.
type Project struct {
	At      string // its folder below the repository's root; "" for the root itself
	Layout  *layout.Layout
	Answers map[string]string
}

// A File is what dicaxon.yaml says.
type File struct {
	Projects []Project
	Levels   map[string]string // by kind or by the name of a rule: a level or "off"
	Waivers  []Waiver
}

// Read reads the file at the root of a repository; nil where there is none. A
// complaint about its text is a *source.Error.
func Read(root string) (*File, error) {
	n, err := source.ReadFile(os.DirFS(root), FileName, FileName)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	return read(root, n, func(at string) bool {
		info, err := os.Stat(path.Join(root, at))
		return err == nil && info.IsDir()
	})
}

// Parse reads the text of such a file, which is not on the disk; layouts that
// are folders are still looked up below root.
func Parse(root string, text []byte) (*File, error) {
	n, err := source.Parse(FileName, text)
	if err != nil {
		return nil, err
	}
	return read(root, n, func(string) bool { return true })
}

func read(root string, n *source.Node, isFolder func(string) bool) (*File, error) {
	if err := keysOf(n, "this file", "dicaxon", "projects", "levels", "waivers"); err != nil {
		return nil, err
	}
	version := n.Get("dicaxon")
	if version == nil || version.Text != layout.Version {
		return nil, n.Errorf("the file begins with dicaxon: %s, the version of its language", layout.Version)
	}
	f := &File{}
	list := n.Get("projects")
	if list == nil && n.Get("levels") == nil && n.Get("waivers") == nil || list != nil && (list.Kind != source.Sequence || len(list.Items) == 0) {
		return nil, n.Errorf(`"projects" lists the projects, each with its layout`)
	}
	seen := map[string]bool{}
	for i := 0; list != nil && i < len(list.Items); i++ {
		item := list.Items[i]
		p, err := readProject(root, item, isFolder)
		if err != nil {
			return nil, err
		}
		if seen[p.At] {
			return nil, item.Errorf("the project at %q stands here twice", path.Clean("./"+p.At))
		}
		seen[p.At] = true
		f.Projects = append(f.Projects, p)
	}
	var err error
	if f.Levels, err = readLevels(n.Get("levels")); err != nil {
		return nil, err
	}
	f.Waivers, err = readWaivers(n.Get("waivers"))
	return f, err
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

func readProject(root string, n *source.Node, isFolder func(string) bool) (p Project, err error) {
	if err := keysOf(n, "a project", "at", "layout", "answers"); err != nil {
		return p, err
	}
	if at := n.Get("at"); at != nil {
		if p.At, err = folder(at, isFolder); err != nil {
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
	c := catalogue.Catalogue{Dir: root}
	if p.Layout, err = c.Layout(name.Text); errors.Is(err, fs.ErrNotExist) {
		return p, name.Errorf("%s", NoLayout(name.Text))
	} else if err != nil {
		return p, err
	}
	p.Answers, err = readAnswers(n.Get("answers"), p.Layout)
	return p, err
}

// folder reads where a project is.
func folder(n *source.Node, isFolder func(string) bool) (string, error) {
	at, err := n.String("at")
	if err != nil {
		return "", err
	}
	clean := path.Clean(at)
	if at == "" || !fs.ValidPath(clean) {
		return "", n.Errorf("%q is no folder of the repository; write its path below the root, with /", at)
	}
	if !isFolder(clean) {
		return "", n.Errorf("there is no folder %q in the repository", clean)
	}
	if clean == "." {
		return "", nil
	}
	return clean, nil
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
