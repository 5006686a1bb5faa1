package workspace

import (
	"os"
	"path"
	"path/filepath"
	"slices"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/identify"
	"dicaxon/internal/layout"
	"dicaxon/internal/safe"
	"dicaxon/internal/source"
	"dicaxon/internal/tree"
)

// gathers are files of a folder that holds several projects as one.
var gathers = []string{"*.sln", "*.slnx", "go.work", "pnpm-workspace.yaml", "lerna.json", "nx.json", "settings.gradle", "settings.gradle.kts"}

// Root returns the repository that a path lies in: the nearest folder around it
// with a ".git", else the outermost with a dicaxon.yaml, else the nearest with a
// file by which projects are known, or the one that gathers them. Where nothing
// tells, it is the folder otherwise, if that is around the path, else the
// nearest folder that is there. It looks no further than the home folder and the disk that
// the path lies on.
func Root(at, otherwise string) string {
	start, err := filepath.Abs(at)
	if err != nil {
		return "."
	}
	for !tree.IsDir(start) && start != filepath.Dir(start) {
		start = filepath.Dir(start)
	}
	id := identify.New(catalogue.Catalogue{})
	config, gathering, known := "", "", ""
	home, _ := os.UserHomeDir()
	for dir := start; ; dir = filepath.Dir(dir) {
		entries, _ := os.ReadDir(dir)
		for _, e := range entries {
			switch name := e.Name(); {
			case dir == home && start != home: // what lies there is about the whole of a person's things
			case name == ".git":
				return dir
			case name == FileName:
				config = dir
			case shared(dir):
			case known == "" && id.Watch(name):
				known = dir
			case gathering == "" && fitsAny(gathers, name):
				gathering = dir
			}
		}
		if dir == filepath.Dir(dir) || dir == home || !tree.SameDisk(start, filepath.Dir(dir)) {
			break
		}
	}
	for _, found := range []string{config, gathering, known} {
		if found != "" {
			return found
		}
	}
	if around, err := filepath.Abs(otherwise); err == nil && otherwise != "" && strings.HasPrefix(start, around+string(filepath.Separator)) {
		return around
	}
	return start
}

// shared says whether a folder holds things that have nothing to do with each
// other, so that a manifest in it says nothing of those below.
func shared(dir string) bool {
	home, _ := os.UserHomeDir()
	return dir == home || dir == filepath.Clean(os.TempDir()) || dir == filepath.Dir(dir)
}

func fitsAny(patterns []string, name string) bool {
	for _, p := range patterns {
		if ok, _ := path.Match(p, name); ok {
			return true
		}
	}
	return false
}

// TeamLayouts lists the layouts of a team's own that the dicaxon.yaml of the
// repository around a folder names; none where there is no such file, or none
// that can be read.
func TeamLayouts(at string) []*layout.Layout {
	root := Root(at, "")
	text, err := safe.ReadFile(root, FileName, safe.Settings)
	if err != nil {
		return nil
	}
	n, err := source.Parse(FileName, text)
	if err != nil || n.Get("projects") == nil {
		return nil
	}
	var all []*layout.Layout
	for _, item := range n.Get("projects").Items {
		if name := item.Get("layout"); name != nil && catalogue.IsPath(name.Text) {
			l, err := catalogue.Catalogue{Dir: root}.Layout(name.Text)
			if err == nil && !slices.ContainsFunc(all, func(o *layout.Layout) bool { return o.Dir == l.Dir }) {
				all = append(all, l)
			}
		}
	}
	return all
}

// Within gives the path of a folder below a root, "" for the root itself and otherwise
// ending in "/".
func Within(root, dir string) (string, error) {
	var all [2]string
	for i, at := range []string{root, dir} {
		whole, err := filepath.Abs(at)
		if err == nil {
			whole, err = filepath.EvalSymlinks(whole)
		}
		if err != nil {
			return "", err
		}
		all[i] = whole
	}
	rel, err := filepath.Rel(all[0], all[1])
	if err != nil || rel == "." {
		return "", err
	}
	return filepath.ToSlash(rel) + "/", nil
}

// Below gives a path, as one writes it where one stands, below the root that another path
// lies in, with its slash; the path itself where it is not below it.
func Below(at, given string) string {
	root, err := filepath.Abs(Root(at, ""))
	if err != nil {
		return given
	}
	full, err := filepath.Abs(given)
	if err != nil {
		return given
	}
	rel, err := filepath.Rel(root, full)
	if err != nil || rel == "." || strings.HasPrefix(rel, "..") {
		return given
	}
	if rel = filepath.ToSlash(rel); strings.HasSuffix(given, "/") {
		rel += "/"
	}
	return rel
}
