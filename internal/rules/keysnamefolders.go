package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/refs"
)

var keysNameFolders = &Rule{
	Name: "keys-name-folders", Kind: finding.Disagrees, Level: finding.Error, Arrangement: true,
	Doc: "The keys below one key of a settings file are the names of folders, at every depth.",
	Example: `- rule: keys-name-folders
  files: dbt_project.yml
  key: "models.<project>"
  folder: models/
  mark: "+"
  ending: .sql`,
	Options: []Option{
		{"files", Paths, true, "the settings file", false},
		{"key", Text, true, "the key below which folders are named", false},
		{"folder", Text, true, "the folder in which they stand", false},
		{"mark", Text, false, "what a key has that is a setting and names no folder", false},
		{"ending", Text, false, "the ending of files that a key may name, too", false},
		{"both", Flag, false, "true where every folder needs a key, too", false},
		{"called-as", Texts, false, "settings of a folder whose value is its name, where that is so of all folders but one", false},
	},
	Run: runKeysNameFolders,
}

func runKeysNameFolders(c *Call) {
	for _, f := range c.files("files") {
		top, folder := c.keysOfFolders(f)
		named := map[string]bool{}
		c.eachKeyOfFolder(f, top, folder, func(k refs.Ref, at string) {
			named[at] = true
			if n := c.node(at); n != nil || c.text("ending") != "" && c.node(at+c.text("ending")) != nil || c.node(path.Dir(at)) == nil {
				return
			}
			message := "settings for %s, which is not there"
			if near := c.nearest(at); near != "" {
				named[path.Join(path.Dir(at), near)] = true
				told := c.atRef(f.path, k, &finding.Place{Path: at + "/"}, message+"; the folder is called %s", at+"/", near)
				if string(k.Span.In(c.textOf(f.path))) == path.Base(at) {
					told.Fix = []edit.Edit{c.edit(f.path, k.Span, near)}
				}
				return
			}
			c.atRef(f.path, k, &finding.Place{Path: at + "/"}, message, at+"/")
		})
		for _, setting := range c.texts("called-as") {
			c.tellOddSetting(f.path, c.refsOf(f.path), top+".", "."+c.text("mark")+setting, folder)
		}
		if n := c.node(folder); c.flag("both") && n != nil && n.Folder != nil {
			for i := range n.Folder.Nodes {
				at := path.Join(folder, n.Folder.Nodes[i].Name)
				if n.Folder.Nodes[i].Folder != nil && c.Seen(n.Folder, i) && !named[at] {
					c.report(at+"/", 0, 0, &finding.Place{Path: f.path}, "%s has no settings for it below %s", f.path, top)
				}
			}
		}
	}
}

// keysOfFolders gives the key below which a settings file names folders, and the folder in which those stand.
func (c *Call) keysOfFolders(f file) (top, folder string) {
	top = fill(c.text("key"), f.env, c.env)
	if strings.Contains(top, "<") {
		top = soleChild(c.refsOf(f.path), top, c.text("mark"))
	}
	return top, strings.TrimSuffix(fill(c.text("folder"), f.env, c.env), "/")
}

// eachKeyOfFolder yields the keys of a settings file that name folders, with the path of each.
func (c *Call) eachKeyOfFolder(f file, top, folder string, yield func(k refs.Ref, at string)) {
	mark := c.text("mark")
	for _, k := range c.refsOf(f.path).Of(refs.Key) {
		below, ok := strings.CutPrefix(k.Name, top+".")
		// A key with a value, or with the mark, is a setting of the folder itself.
		if !ok || k.Value != "" || mark != "" && strings.Contains(below, mark) {
			continue
		}
		yield(k, path.Join(folder, strings.ReplaceAll(below, ".", "/")))
	}
}

// foldersNamed lists the keys that name folders that are there, for those who move what lies in them.
func (c *Call) foldersNamed() (all []Named) {
	for _, f := range c.files("files") {
		top, folder := c.keysOfFolders(f)
		c.eachKeyOfFolder(f, top, folder, func(k refs.Ref, at string) {
			if !c.isFolder(at) || string(k.Span.In(c.textOf(f.path))) != path.Base(at) {
				return
			}
			all = append(all, Named{From: f.path, Span: k.Span, Name: path.Base(at), To: at, Holds: c.text("ending"), Anew: func(_, to string) string {
				if path.Dir(to) != path.Dir(at) || slices.ContainsFunc(c.refsOf(f.path).Of(refs.Key), func(o refs.Ref) bool { return o.Name == keyAbove(k.Name)+"."+path.Base(to) }) {
					return "" // it stands below another key, or would stand there twice
				}
				return path.Base(to)
			}})
		})
	}
	return all
}

// leastAlike is how many folders are called as a setting of theirs at least, so that one that is not is
// told.
const leastAlike = 2

// tellOddSetting tells of the only folder whose setting is not called as the folder, where those of all
// others are.
func (c *Call) tellOddSetting(file string, said *refs.File, top, setting, in string) {
	var odd []refs.Ref
	alike, folder := 0, ""
	for _, k := range said.Of(refs.Key) {
		of, ok := strings.CutSuffix(k.Name, setting)
		below, under := strings.CutPrefix(of, top)
		at := path.Join(in, strings.ReplaceAll(below, ".", "/"))
		if !ok || !under || k.Value == "" || c.node(at) == nil {
			continue
		}
		if name := path.Base(at); k.Value == name {
			alike++
		} else {
			odd, folder = append(odd, k), name
		}
	}
	if len(odd) == 1 && alike >= leastAlike {
		f := c.atRef(file, odd[0], nil, "it says %s for %s, and that of each other folder is called as the folder", odd[0].Value, folder)
		f.Level = max(f.Level, finding.Warning)
	}
}

// soleChild replaces the last, open part of a key by the only key that there
// is: the name of the project, which settings repeat.
func soleChild(said *refs.File, key, mark string) string {
	above := keyAbove(key)
	for _, k := range said.Of(refs.Key) {
		if below, ok := strings.CutPrefix(k.Name, above+"."); ok && !strings.ContainsAny(below, "."+mark) && k.Value == "" {
			return k.Name
		}
	}
	return key
}
