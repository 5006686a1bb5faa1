package rules

import (
	"path"
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
)

// bundleName finds the names of scripts and styles in the settings of a bundler; what stands in
// brackets is put in when it runs.
var bundleName = lazy.New(`['"=\s/]([\w.-]*(?:\[\w+(?::\d+)?\][\w.-]*)*\.(?:js|mjs|cjs|css))['"\s]`)

// inBrackets finds what a bundler puts in.
var inBrackets = lazy.New(`\\\[[^\]]*\\\]`)

// bundles says whether the settings of a bundler say that it writes a file that a page names
// by the address it has once it is served.
func (c *Call) bundles(from, at string) bool {
	if ending := path.Ext(from); ending != ".html" && ending != ".htm" {
		return false
	}
	name := path.Base(at)
	for dir := path.Dir(from); ; dir = path.Dir(dir) {
		for _, file := range c.Top.Names(dir) {
			if file != "package.json" && !strings.Contains(file, ".config.") {
				continue
			}
			text := c.textOf(path.Join(dir, file))
			if file == "package.json" && !bundlers.Match(text) {
				continue
			}
			if slices.ContainsFunc(bundleName.Get().FindAllSubmatch(text, -1), func(m [][]byte) bool { return writesAs(string(m[1]), name) }) {
				return true
			}
		}
		if dir == "." {
			return false
		}
	}
}

// writesAs says whether a bundler may write a file of a name by a pattern.
func writesAs(pattern, name string) bool {
	if !strings.Contains(pattern, "[") {
		return pattern == name
	}
	re, err := regexp.Compile(`\A` + inBrackets.Get().ReplaceAllString(regexp.QuoteMeta(pattern), `[\w.-]+`) + `\z`)
	return err == nil && re.MatchString(name)
}
