// Package project reads dicaxon.yaml, which says which project of a repository
// follows which layout.
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

// Read gives the projects that the file at the root of a repository names, or
// nil where there is no such file. A complaint about its text is a
// *source.Error.
func Read(root string) ([]Project, error) {
	n, err := source.ReadFile(os.DirFS(root), FileName, FileName)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	if err := keysOf(n, "this file", "dicaxon", "projects"); err != nil {
		return nil, err
	}
	version := n.Get("dicaxon")
	if version == nil || version.Text != layout.Version {
		return nil, n.Errorf("the file begins with dicaxon: %s, the version of its language", layout.Version)
	}
	list := n.Get("projects")
	if list == nil || list.Kind != source.Sequence || len(list.Items) == 0 {
		return nil, n.Errorf(`"projects" lists the projects, each with its layout`)
	}
	var all []Project
	seen := map[string]bool{}
	for _, item := range list.Items {
		p, err := readProject(root, item)
		if err != nil {
			return nil, err
		}
		if seen[p.At] {
			return nil, item.Errorf("the project at %q stands here twice", path.Clean("./"+p.At))
		}
		seen[p.At] = true
		all = append(all, p)
	}
	return all, nil
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

func readProject(root string, n *source.Node) (p Project, err error) {
	if err := keysOf(n, "a project", "at", "layout", "answers"); err != nil {
		return p, err
	}
	if at := n.Get("at"); at != nil {
		if p.At, err = folder(root, at); err != nil {
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
func folder(root string, n *source.Node) (string, error) {
	at, err := n.String("at")
	if err != nil {
		return "", err
	}
	clean := path.Clean(at)
	if at == "" || !fs.ValidPath(clean) {
		return "", n.Errorf("%q is no folder of the repository; write its path below the root, with /", at)
	}
	if info, err := os.Stat(path.Join(root, clean)); err != nil || !info.IsDir() {
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
