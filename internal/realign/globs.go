package realign

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs"
)

// globs lets patterns in the scripts of manifests follow that fit files now and none
// afterwards, or that are of results of such files. Where no pattern says the new places it
// is a remark.
func (f *follower) globs() {
	f.tree.Each(func(at string) {
		if path.Base(at) != "package.json" {
			return
		}
		for _, k := range f.graph.Of(at).Of(refs.Key) {
			if !strings.HasPrefix(k.Name, "scripts.") {
				continue
			}
			for _, word := range strings.Fields(k.Value) {
				word = strings.Trim(word, `"'`)
				glob := path.Join(path.Dir(at), word)
				if strings.Contains(word, "*") && !strings.Contains(path.Dir(glob), "*") && len(fitting(f.tree, glob)) > 0 && len(fitting(f.moved, glob)) == 0 {
					f.glob(at, k, word, glob)
				}
			}
		}
	})
}

// glob writes a pattern anew, or remarks on it.
func (f *follower) glob(at string, k refs.Ref, word, glob string) {
	text, _ := f.tree.Text(at)
	value := string(k.ValueSpan.In(text))
	new := f.globAfter(glob)
	if path.Dir(at) != "." {
		var inside bool
		if new, inside = strings.CutPrefix(new, path.Dir(at)+"/"); !inside {
			new = ""
		}
	}
	if new == "" || strings.Count(value, word) != 1 {
		f.remark(at, k.Line, "no file fits "+word+" any more")
		return
	}
	start := int(k.ValueSpan.Start) + strings.Index(value, word)
	if strings.HasPrefix(word, "./") {
		new = "./" + new
	}
	f.edit(at, k.Line, start, start+len(word), new)
}

// globAfter gives the pattern that fits just the files to which those go that fit one
// now, "" where there is none.
func (f *follower) globAfter(glob string) string {
	var folder []string
	targets := map[string]bool{}
	for _, name := range fitting(f.tree, glob) {
		to := f.plan.After(path.Join(path.Dir(glob), name))
		parts := strings.Split(path.Dir(to), "/")
		if !fits(path.Base(glob), path.Base(to)) || folder != nil && len(parts) != len(folder) {
			return ""
		}
		targets[to] = true
		if folder == nil {
			folder = parts
			continue
		}
		for i := range parts {
			if parts[i] != folder[i] {
				folder[i] = "*"
			}
		}
	}
	new := strings.Join(append(folder, path.Base(glob)), "/")
	others := false
	f.moved.Each(func(file string) {
		in, _ := path.Match(path.Dir(new), path.Dir(file))
		others = others || in && fits(path.Base(glob), path.Base(file)) && !targets[file]
	})
	if others {
		return ""
	}
	return new
}

// fitting lists the files of a folder that have a name of a pattern, or whose results have.
func fitting(tree refs.Tree, glob string) []string {
	return slices.DeleteFunc(slices.Clone(tree.Names(path.Dir(glob))), func(name string) bool { return !fits(path.Base(glob), name) })
}

func fits(pattern, name string) bool {
	is, _ := path.Match(pattern, name)
	ts := path.Ext(name)
	of, _ := path.Match(pattern, strings.TrimSuffix(name, ts)+strings.Replace(ts, "ts", "js", 1))
	return is || of
}
