package rules

import (
	"bytes"
	"fmt"
	"maps"
	"path"
	"slices"
	"strings"
	"unicode/utf8"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/tree"
)

var stale = &Rule{
	Name: "old-names", Kind: finding.Dangling, Level: finding.Warning, Always: true,
	Doc: "No text still names a file or a folder by a path that git knows was renamed or deleted, whatever the language.",
	Example: `- rule: old-names
  except: "docs/history/**"`,
	Options: []Option{{"except", Paths, false, "texts that speak of the past", true}},
	Run:     runStale,
}

// An oldName is a path that was, with the ways in which texts write it.
type oldName struct {
	path, now string
	written   [][]byte
}

func runStale(c *Call) {
	if c.Gone == nil {
		return
	}
	all := c.oldNames(c.Gone())
	if len(all) == 0 {
		return
	}
	c.Written(c.Top, func(at string, n *tree.Node) {
		if n.Kind != tree.File || speaksOfThePast(at) || c.fits("except", at) {
			return
		}
		text := c.textOf(at)
		if !slices.ContainsFunc(all, func(old oldName) bool {
			return slices.ContainsFunc(old.written, func(name []byte) bool { return bytes.Contains(text, name) })
		}) || c.lends(at) {
			return
		}
		if !utf8.Valid(text[:min(len(text), 4096)]) && bytes.IndexByte(text[:min(len(text), 4096)], 0) >= 0 {
			return
		}
		told := map[int]bool{}
		for _, old := range all {
			for _, name := range old.written {
				i := wholePath(text, name)
				if i < 0 {
					continue
				}
				line, column := refs.Place(text, refs.Span{Start: int32(i), End: int32(i + len(name))})
				if told[line] {
					break // by a longer name
				}
				told[line] = true
				message := fmt.Sprintf("it still names %s, which is gone", name)
				if now := old.now; now != "" {
					if name[len(name)-1] == '/' {
						now += "/"
					}
					message = fmt.Sprintf("it still names %s, which is %s now", name, now)
				}
				f := c.report(at, line, column, &finding.Place{Path: old.path}, "%s", message)
				f.About, f.Sought = old.path, []string{c.Top.Path() + old.path}
				break
			}
		}
	})
}

// speaksOfThePast says whether a text tells what was, as a list of changes does, or
// what is not to be there, as an ignore file does.
func speaksOfThePast(at string) bool {
	name := strings.ToLower(path.Base(at))
	for _, word := range []string{"change", "history", "news", "release", "migrat", "upgrad"} {
		if strings.Contains(name, word) {
			return true
		}
	}
	return strings.HasSuffix(name, "ignore") || strings.HasSuffix(name, ".lock") || strings.HasSuffix(name, "-lock.json") || strings.HasSuffix(name, ".patch") || strings.HasSuffix(name, ".diff") || name == "dicaxon-accepted.json"
}

// oldNames puts files that went from one folder with it together, and says how
// texts write each.
func (c *Call) oldNames(gone map[string]string) []oldName {
	folders := map[string]string{} // that are no more, and what they are now
	var all []oldName
	for _, full := range slices.Sorted(maps.Keys(gone)) {
		at, ok := strings.CutPrefix(full, c.Top.Path())
		if !ok {
			continue
		}
		now := strings.TrimPrefix(gone[full], c.Top.Path())
		if folder := c.absentAbove(at); folder != at {
			to := strings.TrimSuffix(now, strings.TrimPrefix(at, folder))
			if now == "" || to == now {
				to = ""
			}
			if had, known := folders[folder]; !known || had != "" && to != "" {
				folders[folder] = to
			}
		}
		written := [][]byte{}
		if strings.Contains(at, "/") {
			written = append(written, []byte(at))
			switch module := strings.TrimSuffix(at, path.Ext(at)); path.Ext(at) {
			case ".py", ".kt", ".java":
				if !c.Top.HasFolder(module) { // which is called so now
					written = append(written, []byte(strings.ReplaceAll(module, "/", ".")))
				}
			}
		} else if len(names.BeforeDot(at)) > 3 && path.Ext(at) != "" && len(c.Graph.Look().Called(names.BeforeDot(at))) == 0 {
			written = append(written, []byte(at))
		}
		if len(written) > 0 {
			all = append(all, oldName{at, now, written})
		}
	}
	for _, folder := range slices.Sorted(maps.Keys(folders)) {
		written := [][]byte{[]byte(folder + "/")}
		if strings.Contains(folder, "/") {
			written = append(written, []byte(folder))
		}
		all = append(all, oldName{folder, folders[folder], written})
	}
	return all
}

// wholePath gives where a text has a path that is not the end or the beginning of
// another, -1 where nowhere.
func wholePath(text, name []byte) int {
	part := func(b byte) bool { return wordByte(b) || b == '-' || b == '/' }
	for from := 0; ; {
		i := bytes.Index(text[from:], name)
		if i < 0 {
			return -1
		}
		i += from
		from = i + len(name)
		before := i == 0 || !part(text[i-1]) && text[i-1] != '.' && text[i-1] != ':' || i > 1 && text[i-1] == '/' && text[i-2] == '.' && (i == 2 || !part(text[i-3]) && text[i-3] != '.')
		if before && (from == len(text) || name[len(name)-1] == '/' || !part(text[from])) {
			return i
		}
	}
}
