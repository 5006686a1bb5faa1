package rules

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var reached = &Rule{
	Name: "reached", Kind: finding.Unwired, Level: finding.Warning,
	Doc: "Every file of these is named by another file of its language.",
	Example: `- rule: reached
  files: "src/**/*.rs"
  except: ["src/main.rs", "src/lib.rs"]`,
	Options: []Option{
		{"files", Paths, true, "the files", false},
		{"except", Paths, false, "those from which the language starts", true},
		{"by-word", Texts, false, "the words of the statements that count, where others only use what is named", false},
		{"named-in", Paths, false, "settings that may name one as a start, by its path from their folder", false},
		{"by", Finders, false, "finds other ways of naming one, of which nobody can tell where it lies: the first group is its name without an ending, or that of the folder that it stands for", false},
	},
	Run: func(c *Call) {
		files, settings := c.files("files"), c.files("named-in")
		loosely := map[string]bool{}
		var codes []string
		if c.regexps["by"] != nil {
			codes = c.codeOf(slices.Concat(files, c.files("except")))
		}
		for _, code := range codes {
			for _, re := range c.regexps["by"] {
				for _, m := range re.Get().FindAllStringSubmatch(code, -1) {
					loosely[m[1]] = true
				}
			}
		}
		var makers [][]byte // files of which a macro names others
		for _, f := range slices.Concat(files, c.files("except")) {
			if path.Ext(f.path) == ".rs" && c.refsOf(f.path).Open {
				makers = append(makers, c.Graph.Code(f.path))
			}
		}
		for _, f := range files {
			if c.fits("except", f.path) || c.lends(f.path) || c.isNamed(f.path) || c.saidIn(settings, f.path) {
				continue
			}
			stem := names.Stem(path.Base(f.path))
			if refs.IsIndex(path.Base(f.path)) {
				stem = path.Base(path.Dir(f.path))
			}
			if loosely[stem] || slices.ContainsFunc(makers, func(text []byte) bool { return lang.HasWord(text, stem) }) {
				continue
			}
			c.report(f.path, 0, 0, nil, "no %s names it, so it is not compiled", path.Ext(f.path))
		}
	},
}

// saidIn says whether one of some settings names a path, from its own folder.
func (c *Call) saidIn(settings []file, at string) bool {
	return slices.ContainsFunc(settings, func(f file) bool {
		below, within := belowFolderOf(f.path, at)
		return within && bytes.Contains(c.textOf(f.path), []byte("\""+below+"\""))
	})
}

// belowFolderOf gives a path from the folder of a file; false where it does not lie in that.
func belowFolderOf(of, at string) (below string, within bool) {
	return strings.CutPrefix("./"+at, "./"+strings.TrimPrefix(path.Dir(of)+"/", "./"))
}

// isNamed says whether another file of the same language leads to a file, by a statement that
// counts.
func (c *Call) isNamed(at string) bool {
	words := c.texts("by-word")
	for _, e := range c.Graph.To(at) {
		if words != nil && !slices.Contains(words, e.Ref.Value) {
			continue
		}
		if e.From != at && path.Ext(e.From) == path.Ext(at) {
			return true
		}
	}
	return false
}
