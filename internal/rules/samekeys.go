package rules

import (
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

var sameKeys = &Rule{
	Name: "same-keys", Kind: finding.Disagrees, Level: finding.Note,
	Doc: "Files that say the same in several languages have the same keys. One that lacks many is on its way, and nothing is said of it.",
	Example: `- rule: same-keys
  files: "**/locales/*.json"
  by-path: '/([a-z]{2})\.json$'`,
	Options: []Option{
		{"files", Paths, true, "the files", true},
		{"by-path", Regexps, true, "finds the language in the path of a file: its first group", false},
		{"by", Finders, false, "finds a key: its first group; if left out, the keys are those of the settings", false},
		{"except", Regexps, false, "keys that one language has alone", false},
	},
	Run: func(c *Call) {
		groups := map[string][]languageFile{}
		var order []string
		for _, f := range c.files("files") {
			if c.lends(f.path) || inSample(f.path) {
				continue
			}
			if language, group := c.languageOf(f.path); language != "" {
				if groups[group] == nil {
					order = append(order, group)
				}
				groups[group] = append(groups[group], languageFile{path: f.path, language: language})
			}
		}
		for _, group := range order {
			if all := groups[group]; len(all) > 1 {
				for i := range all {
					c.readKeys(&all[i])
				}
				c.tellUnsaid(all)
			}
		}
	},
}

// A languageFile is what one language says, with its keys in the order in which they stand.
type languageFile struct {
	path, language string
	keys           []string
	has            map[string]bool
}

// languageOf gives the language that the path of a file names, and the path without it, which the files
// of the other languages share.
func (c *Call) languageOf(at string) (language, group string) {
	for _, re := range c.regexps["by-path"] {
		if m := re.Get().FindStringSubmatchIndex(at); len(m) > 3 && m[2] >= 0 {
			language = at[m[2]:m[3]]
			return language, at[:m[2]] + "*" + strings.ReplaceAll(at[m[3]:], language, "*")
		}
	}
	return "", ""
}

// pluralForm is what stands at the end of a key for one of the numbers that languages tell apart, each its
// own (Unicode CLDR, "Language Plural Rules").
var pluralForm = lazy.New(`[._](?:zero|one|two|few|many|other|plural)$`)

// readKeys reads the keys of a file, without the language where all begin with that and without forms of the plural.
func (c *Call) readKeys(f *languageFile) {
	f.has = map[string]bool{}
	said := func(key string) {
		key = strings.TrimPrefix(key, f.language+".")
		if m := pluralForm.Get().FindStringIndex(key); m != nil {
			key = key[:m[0]]
		}
		if key != "" && key != f.language && !anyFits(c.regexps["except"], []byte(key)) && !f.has[key] {
			f.keys, f.has[key] = append(f.keys, key), true
		}
	}
	if c.regexps["by"] == nil {
		settings := c.Graph.InPassing(f.path)
		if settings.Broken != "" { // what stands beyond is not known
			return
		}
		for _, k := range settings.Of(refs.Key) {
			said(k.Name)
		}
		return
	}
	text := c.textOf(f.path)
	for _, re := range c.regexps["by"] {
		for _, m := range re.FindAll(text) {
			said(string(text[m[2]:m[3]]))
		}
	}
}

// mostUnsaid is how many keys of the other languages one lacks at most that is translated: one key
// in so many, and always a few.
const mostUnsaid, fewUnsaid = 20, 3

// tellUnsaid tells of the languages that lack what all the others say.
func (c *Call) tellUnsaid(all []languageFile) {
	for i, one := range all {
		others := slices.Delete(slices.Clone(all), i, i+1)
		var lacks []string
		for _, key := range others[0].keys {
			if !one.has[key] && !slices.ContainsFunc(others, func(o languageFile) bool { return !o.has[key] }) {
				lacks = append(lacks, key)
			}
		}
		if len(lacks) > 0 && len(lacks) <= min(len(one.keys), max(fewUnsaid, len(one.keys)/mostUnsaid)) {
			c.report(one.path, 0, 0, &finding.Place{Path: others[0].path}, "it lacks %s, which %s has", inOneSentence(lacks), others[0].path).About = lacks[0]
		}
	}
}
