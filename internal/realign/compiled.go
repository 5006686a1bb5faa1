package realign

import (
	"path"
	"regexp"
	"strings"

	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

// compiled lets follow what manifests name of the results of sources that move: the path of a
// result below the compiler's folder is that of its source.
func (f *follower) compiled() {
	for _, m := range f.plan.Moves {
		f.moved.each(strings.TrimSuffix(m.From, "/"), func(at string) {
			if ending := path.Ext(at); ending != ".ts" && ending != ".tsx" && ending != ".mts" && ending != ".cts" || strings.HasSuffix(at, ".d.ts") {
				return
			}
			home, manifest := f.graph.Look().Nearest(at, "package.json")
			old, ok := below(home, at)
			new, also := below(home, f.plan.After(at))
			if manifest == "" || !ok || !also || old == new {
				return
			}
			f.resultNamed(home, manifest, old, new)
			for _, root := range []string{"src/", "lib/"} { // which may be the folder of sources
				if inOld, ok := strings.CutPrefix(old, root); ok {
					if inNew, ok := strings.CutPrefix(new, root); ok {
						f.resultNamed(home, manifest, inOld, inNew)
					}
				}
			}
		})
	}
}

// below gives the path of a source below a folder, without its ending.
func below(home, at string) (string, bool) {
	at = strings.TrimSuffix(at, path.Ext(at))
	if home == "." || home == "" {
		return at, true
	}
	return strings.CutPrefix(at, home+"/")
}

// resultNamed edits the path of a result in a manifest: one that is not there, and that no
// other source stands for.
func (f *follower) resultNamed(home, manifest, old, new string) {
	text, err := f.tree.Text(manifest)
	if err != nil {
		return
	}
	named := regexp.MustCompile(`"((?:\./)?(?:[\w.-]+/)?)(` + regexp.QuoteMeta(old) + `)(?:\.d)?\.[cm]?[jt]sx?(?:\.map)?"`)
	for _, m := range named.FindAllSubmatchIndex(text, -1) {
		stem := path.Join(home, string(text[m[2]:m[5]]))
		there := f.tree.IsFile(path.Join(home, string(text[m[2]:m[1]-1])))
		for _, ending := range []string{".ts", ".tsx", ".mts", ".cts"} {
			there = there || m[3] > m[2] && path.Clean(string(text[m[2]:m[3]])) != "." && f.tree.IsFile(stem+ending)
		}
		if there || f.held(manifest, m[4]) {
			continue
		}
		line, _ := refs.Place(text, lang.At(m[4], m[5]))
		f.edit(manifest, line, m[4], m[5], new)
	}
}
