package rules

import (
	"bytes"
	"maps"
	"path"
	"regexp"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
)

// A spoken is a name in a text that stands for something.
type spoken struct {
	file    file
	name    string
	at      refs.Span
	written string // the name as it is written, where more stands before it
	instead string // the only name that what is around it has, where it is written as one that leads to it
}

// spoken lists the names that files say as the rule tells them.
func (c *Call) spoken(files []file) []spoken {
	var all []spoken
	for _, f := range files {
		if c.lends(f.path) && !f.meant() {
			continue
		}
		for _, r := range c.keysOf(f.path, "keys") {
			all = append(all, spoken{file: f, name: r.Value, at: r.Edit()})
		}
		if len(c.regexps["by"]) == 0 {
			continue
		}
		code := c.Graph.Code(f.path)
		said := len(all)
		for _, part := range partsOf(code, c.regexps["inside"]) {
			all = append(all, c.notSaidThere(c.spokenIn(f, code[:part[1]], part[0]), code[part[0]:part[1]])...)
		}
		all = append(all[:said], c.putBefore(all[said:], f.path, code)...)
	}
	return c.ownNames(slices.DeleteFunc(all, func(s spoken) bool { return strings.ContainsAny(s.name, "${}<>#*%") }))
}

// putBefore puts before names of a file what the option of finds in its path, or else in its text; where
// that finds nothing, nobody knows what such a name is one of.
func (c *Call) putBefore(all []spoken, at string, code []byte) []spoken {
	if c.regexps["of"] == nil {
		return all
	}
	of := ""
	for _, re := range c.regexps["of"] {
		for _, text := range [][]byte{[]byte(at), code} {
			if found := groupsIn(re, text); of == "" && len(found) > 0 {
				of = found[0]
			}
		}
	}
	kept := all[:0]
	for _, s := range all {
		switch {
		case strings.Contains(s.name, "."):
			kept = append(kept, s)
		case of != "":
			s.name, s.written = of+"."+s.name, s.name
			kept = append(kept, s)
		}
	}
	return kept
}

// meant says whether the pattern that found a file means just such: templates by their ending, a
// sample by its name, or what lies in a folder that it names.
func (f file) meant() bool {
	if f.pattern == nil {
		return false
	}
	pattern, ending := f.pattern.Text, path.Ext(f.path)
	return path.Base(pattern) == path.Base(f.path) && !inFolder(f.path, ofData) || slices.Contains([]string{".erb", ".j2"}, ending) && path.Ext(pattern) == ending ||
		slices.ContainsFunc(strings.Split(path.Dir(f.path), "/"), func(name string) bool {
			return slices.Contains(lenders, name) && strings.Contains("/"+pattern, "/"+name+"/")
		})
}

// partsOf gives the parts of a text that expressions find, from and to; all of it without one.
func partsOf(code []byte, inside []*lazy.Regexp) [][]int {
	if inside == nil {
		from := len(code) - len(bytes.TrimPrefix(code, []byte("\ufeff"))) // the first line begins behind the mark
		return [][]int{{from, len(code)}}
	}
	var all [][]int
	for _, re := range inside {
		all = append(all, re.FindAll(code)...)
	}
	return all
}

// spokenIn lists the names that a text says from a place on.
func (c *Call) spokenIn(f file, code []byte, from int) []spoken {
	return c.spokenBy("by", f, code, from)
}

// spokenBy lists the names that the finders of an option find in a text from a place on.
func (c *Call) spokenBy(option string, f file, code []byte, from int) (all []spoken) {
	for _, re := range c.regexps[option] {
		name, of := groups(re.Get())
		for _, m := range re.FindAll(code[from:]) {
			if m[name] < 0 {
				continue
			}
			at := refs.Span{Start: int32(from + m[name]), End: int32(from + m[name+1])}
			s := spoken{file: f, name: string(code[at.Start:at.End]), at: at}
			if strings.ContainsAny(s.name, quotes) {
				s.name = joined.Get().ReplaceAllString(s.name, "/")
			}
			if of > 0 && m[of] >= 0 {
				s.name = string(code[from+m[of]:from+m[of+1]]) + "." + s.name
				if n := m[name] - m[of+1]; n == 1 || n == 2 && code[from+m[of+1]] == code[at.Start-1] { // as one word, with its own separator
					s.written = string(code[from+m[of] : at.End])
				}
			}
			all = append(all, s)
		}
	}
	return all
}

// notSaidThere leaves the names that the part of a text in which they are said does not have otherwise.
func (c *Call) notSaidThere(all []spoken, part []byte) []spoken {
	if c.regexps["there"] == nil || len(all) == 0 {
		return all
	}
	said := map[string]bool{}
	for _, re := range c.regexps["there"] {
		for _, m := range re.Get().FindAllSubmatch(part, -1) {
			said[string(m[1])] = true
		}
	}
	all = slices.DeleteFunc(all, func(s spoken) bool { return said[s.name] })
	one := sole(slices.Collect(maps.Keys(said)))
	for i := range all {
		if at := all[i].at.Start; at > 0 && strings.IndexByte(quotes+":", c.Graph.Code(all[i].file.path)[at-1]) >= 0 {
			all[i].instead = one
		}
	}
	return all
}

// among leaves the names that the files which define names are asked for, all of them where nothing is asked.
func (c *Call) among(all []spoken) []spoken {
	if c.regexps["among"] == nil {
		return all
	}
	in := c.files("in")
	if len(in) == 0 {
		in = c.files("files")
	}
	known := map[string]bool{}
	for _, code := range c.codeOf(in) {
		for _, re := range c.regexps["among"] {
			for _, m := range re.Get().FindAllStringSubmatch(code, -1) {
				known[m[1]] = true
			}
		}
	}
	return slices.DeleteFunc(all, func(s spoken) bool { return !known[s.name] })
}

// joined is what stands between parts of a path that code puts together, each in quotes.
var joined = lazy.New(`["']\s*[/,]\s*["']`)

const quotes = `"'`

// groups gives the places, in what an expression found, of the name and of what is put
// before it, 0 where nothing is.
func groups(re *regexp.Regexp) (name, of int) {
	name, of = 1, 2
	if named := re.SubexpIndex("name"); named > 0 {
		name, of = named, re.SubexpIndex("of")
	}
	if of > re.NumSubexp() {
		of = 0
	}
	return 2 * name, 2 * max(of, 0)
}

// ownNames leaves the names that begin as those of the project do, without that
// beginning.
func (c *Call) ownNames(all []spoken) []spoken {
	var parts []string
	for _, place := range c.texts("own") {
		values := c.said(place)
		if len(values) == 0 {
			return nil
		}
		parts = append(parts, values[0].value)
	}
	if parts == nil {
		return all
	}
	prefix := strings.Join(parts, ".") + "."
	var own []spoken
	for _, s := range all {
		rest, ok := strings.CutPrefix(s.name, prefix)
		if !ok {
			rest, ok = strings.CutPrefix(s.name, strings.Join(parts, "::")+"::")
		}
		if ok {
			s.at.Start = max(s.at.Start, s.at.End-int32(len(rest)))
			s.name, s.written = rest, s.name
			own = append(own, s)
		}
	}
	return own
}

// alsoNamed adds a name to a finding that has the same cause.
func (c *Call) alsoNamed(f *finding.Finding, s spoken, fix []edit.Edit) {
	also := c.Top.Path() + s.file.path
	if also == f.Path || slices.Contains(f.Also, also) {
		also = s.name
	}
	f.Also = append(f.Also, also)
	f.More = len(f.Also)
	f.Fix = append(f.Fix, fix...)
}

// asWritten gives what was meant with what stands between its group and itself in the text, as moorings:remind.
func (s *spoken) asWritten(meant string, ofGroup bool) string {
	i, between := strings.LastIndexByte(meant, '.'), len(s.written)-int(s.at.Len())-1
	switch {
	case ofGroup && between == -1 && i >= 0: // what stands before it is not written there
		return meant[i+1:]
	case !ofGroup || i < 0 || between <= 0:
		return meant
	}
	if s.written[between-1] == s.written[between] { // two, such as colons
		return meant[:i] + s.written[between-1:between+1] + meant[i+1:]
	}
	return meant[:i] + s.written[between:between+1] + meant[i+1:]
}

// A nameAt is where a name ends in a file: of several rules for one name some begin with what stands before it.
type nameAt struct {
	path string
	end  int32
}

// toldBefore says whether another rule told of a name at that place, which is no milder, and notes that one does.
func (c *Call) toldBefore(s spoken) bool {
	at := nameAt{s.file.path, s.at.End}
	level, told := c.lostNames[at]
	if told && level <= c.level {
		return true
	}
	c.lostNames[at] = c.level
	return false
}
