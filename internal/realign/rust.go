package realign

import (
	"bytes"
	"path"
	"strings"

	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/rust"
)

// rustModules moves the declarations of modules along with their files, and writes paths
// from the crate's root anew.
func (f *follower) rustModules() {
	for _, m := range f.plan.Moves {
		from, to := moduleOf(m.From), moduleOf(m.To)
		if from == "" || to == "" || path.Ext(m.From) != ".rs" && !strings.HasSuffix(m.From, "/") {
			continue
		}
		at := strings.TrimSuffix(m.From, "/")
		if strings.HasSuffix(m.From, "/") && !f.tree.IsFile(path.Join(at, "mod.rs")) {
			continue // its file beside it leads
		}
		f.module(at, from, to)
	}
}

// moduleOf gives the path of a module from the crate's root, "" for what is none.
func moduleOf(at string) string {
	at = rust.Module(strings.TrimSuffix(at, "/"))
	if i := strings.LastIndex("/"+at, "/src/"); i >= 0 {
		below := at[i+len("src/"):]
		if below == "lib" || below == "main" || strings.HasPrefix(below, "bin/") {
			return ""
		}
		return strings.ReplaceAll(below, "/", "::")
	}
	return ""
}

func (f *follower) module(at, from, to string) {
	src := at[:strings.LastIndex("/"+at, "/src/")] + "src/"
	parent := f.parentModule(src, to)
	file := at
	if f.tree.IsFolder(at) {
		file = path.Join(at, "mod.rs")
	}
	name := to[strings.LastIndex("::"+to, "::"):]
	for _, e := range f.graph.To(file) {
		if e.Ref.Value != "mod" || path.Ext(e.From) != ".rs" {
			continue
		}
		if e.From == parent {
			f.edit(e.From, e.Ref.Line, int(e.Ref.Span.Start), int(e.Ref.Span.End), name)
			continue
		}
		text, _ := f.tree.Text(e.From)
		start := bytes.LastIndexByte(text[:e.Ref.Span.Start], '\n') + 1
		end := min(len(text), start+lang.LineLength(text[start:])+1)
		statement := strings.TrimSpace(string(text[start:end]))
		if parent == "" {
			f.remark(file, 1, "no file of "+path.Dir(strings.ReplaceAll(to, "::", "/"))+" could declare the module "+name)
			return
		}
		f.edit(e.From, e.Ref.Line, start, end, "")
		f.declareModule(parent, strings.Replace(statement, "mod "+e.Ref.Name, "mod "+name, 1))
	}
	f.tree.Each(func(other string) {
		if path.Ext(other) != ".rs" || !strings.HasPrefix(other, src) {
			return
		}
		text, err := f.tree.Text(other)
		if err != nil {
			return
		}
		f.replace(other, text, "crate::"+from, "crate::"+to)
		if other == file && strings.Contains(from, "::") != strings.Contains(to, "::") || other == file && parentOf(from) != parentOf(to) {
			up := "crate"
			if p := parentOf(from); p != "" {
				up += "::" + p
			}
			f.replace(other, text, "super", up)
		}
	})
}

func parentOf(module string) string {
	if i := strings.LastIndex(module, "::"); i >= 0 {
		return module[:i]
	}
	return ""
}

// parentModule gives the file that declares what is in a module, "" where none is there.
func (f *follower) parentModule(src, module string) string {
	tries := []string{src + "lib.rs", src + "main.rs"}
	if p := strings.ReplaceAll(parentOf(module), "::", "/"); p != "" {
		tries = []string{src + p + ".rs", src + p + "/mod.rs"}
	}
	for _, at := range tries {
		if f.tree.IsFile(at) && f.plan.After(at) == at {
			return at
		}
	}
	return ""
}

// declareModule adds the declaration of a module behind the last one of a file.
func (f *follower) declareModule(at, statement string) {
	text, err := f.tree.Text(at)
	if err != nil {
		return
	}
	place, line := 0, 1
	for _, r := range f.graph.Of(at).Of(refs.Import) {
		if r.Value == "mod" {
			end := min(len(text), int(r.Span.End)+lang.LineLength(text[r.Span.End:])+1)
			place, line = end, r.Line
		}
	}
	f.edit(at, line, place, place, statement+"\n")
}
