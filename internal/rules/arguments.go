package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
)

var arguments = &Rule{
	Name: "arguments", Kind: finding.Dangling, Level: finding.Error,
	Doc: "What a call hands to a folder of the project is what that asks for, all that it needs is handed over, and what is taken of it is what it gives.",
	Example: `- rule: arguments
  files: "**/*.tf"
  calls: '(?ms)^module\s+"([\w-]+)"\s*\{.*?^\}'
  of: '(?m)^\s*source\s*=\s*"(\.[^"]*)"'
  hands: '(?m)^  (\w+)\s*='
  asks: '(?ms)^variable\s+"(\w+)"\s*\{.*?\}'
  unless: '\bdefault\s*='`,
	Options: []Option{
		{"files", Paths, true, "the files that call, and those that ask and give", false},
		{"calls", Finders, true, "finds a call: its first group is what it is called here", false},
		{"of", Finders, true, "finds in a call the folder, from that of the file", false},
		{"hands", Finders, true, "finds in a call the names of what it hands over", false},
		{"except", Regexps, false, "names that every call may have", false},
		{"asks", Finders, true, "finds what a folder asks for: its first group is the name", false},
		{"unless", Regexps, false, "what a folder asks for and need not be given has this text", false},
		{"takes", Finders, false, "finds what is taken of a call: its first group is what that is called, its second the name", false},
		{"gives", Finders, false, "finds what a folder gives: its first group is the name", false},
	},
	Run: func(c *Call) {
		in := map[string][]file{}
		for _, f := range c.files("files") {
			in[path.Dir(f.path)] = append(in[path.Dir(f.path)], f)
		}
		offers := map[string]*offer{}
		for _, files := range in {
			calls := map[string]string{} // by what they are called, the folder
			for _, f := range files {
				c.eachCall(f.path, func(name, folder string, text []byte, from int) {
					calls[name] = folder
					if _, known := offers[folder]; !known {
						offers[folder] = c.offerOf(in[folder])
					}
					if !c.lends(f.path) {
						c.tellArguments(f.path, name, folder, text, from, offers[folder])
					}
				})
			}
			for _, f := range files {
				c.tellTaken(f.path, calls, offers)
			}
		}
	},
}

// An offer is what a folder that is called asks for, and what it gives.
type offer struct{ asked, needed, given []string }

// eachCall yields the calls in a file whose folder is one of the project, with what they are called,
// their text, and where that begins.
func (c *Call) eachCall(at string, yield func(name, folder string, text []byte, from int)) {
	code := c.Graph.Code(at)
	for _, re := range c.regexps["calls"] {
		for _, m := range re.Get().FindAllSubmatchIndex(code, -1) {
			text := code[m[0]:m[1]]
			for _, of := range c.regexps["of"] {
				if found := groupsIn(of, text); len(found) == 1 {
					if folder := path.Join(path.Dir(at), found[0]); c.isFolder(folder) {
						yield(string(code[m[2]:m[3]]), folder, text, m[0])
					}
				}
			}
		}
	}
}

// offerOf reads what the files of a folder ask for and give; nil where there are none.
func (c *Call) offerOf(files []file) *offer {
	if len(files) == 0 {
		return nil
	}
	o := &offer{}
	for _, f := range files {
		code := c.Graph.Code(f.path)
		for _, re := range c.regexps["asks"] {
			for _, m := range re.Get().FindAllSubmatch(code, -1) {
				o.asked = append(o.asked, string(m[1]))
				if !anyFits(c.regexps["unless"], m[0]) {
					o.needed = append(o.needed, string(m[1]))
				}
			}
		}
		for _, re := range c.regexps["gives"] {
			o.given = append(o.given, groupsIn(re, code)...)
		}
	}
	return o
}

// tellArguments tells of what a call hands over and nobody asks for, and of what it lacks.
func (c *Call) tellArguments(at, name, folder string, text []byte, from int, o *offer) {
	if o == nil {
		return
	}
	handed, unknown := map[string]bool{}, []int{}
	for _, re := range c.regexps["hands"] {
		for _, m := range re.Get().FindAllSubmatchIndex(text, -1) {
			one := string(text[m[2]:m[3]])
			handed[one] = true
			if !slices.Contains(o.asked, one) && !anyFits(c.regexps["except"], []byte(one)) {
				unknown = append(unknown, m[2], m[3])
			}
		}
	}
	lacks := slices.DeleteFunc(slices.Clone(o.needed), func(one string) bool { return handed[one] })
	known := o.asked
	if len(lacks) == 1 && len(unknown) == 2 { // that is what was meant
		known, lacks = lacks, nil
	}
	for i := 0; i < len(unknown); i += 2 {
		c.notThere(at, from+unknown[i], string(text[unknown[i]:unknown[i+1]]), folder, "it hands %s to %s, which does not ask for it", known)
	}
	if len(lacks) > 0 {
		line, column := refs.Place(c.textOf(at), refs.Span{Start: int32(from)})
		c.report(at, line, column, &finding.Place{Path: folder + "/"}, "%s does not hand over %s, which %s needs", name, strings.Join(lacks, ", "), c.Top.Path()+folder+"/")
	}
}

// tellTaken tells of what a file takes of calls, and the folder does not give.
func (c *Call) tellTaken(at string, calls map[string]string, offers map[string]*offer) {
	code := c.Graph.Code(at)
	told := map[string]bool{}
	for _, re := range c.regexps["takes"] {
		for _, m := range re.Get().FindAllSubmatchIndex(code, -1) {
			folder, known := calls[string(code[m[2]:m[3]])]
			one := string(code[m[4]:m[5]])
			if o := offers[folder]; known && o != nil && !slices.Contains(o.given, one) && !told[folder+" "+one] {
				told[folder+" "+one] = true
				c.notThere(at, m[4], one, folder, "it takes %s of %s, which does not give it", o.given)
			}
		}
	}
}

// notThere tells of a name that a folder does not know, and of the one that was likely meant.
func (c *Call) notThere(at string, offset int, name, folder, format string, known []string) {
	f := c.atName(at, refs.Span{Start: int32(offset), End: int32(offset + len(name))}, folder+"/", format, name, c.Top.Path()+folder+"/")
	near := names.Closest(name, known)
	if len(known) == 1 {
		near = known[0]
	}
	if near != "" && (len(known) == 1 || names.Near(name, near) != names.Apart) {
		f.Message += "; did it mean " + near + "?"
		f.Fix = append(f.Fix, c.edit(at, refs.Span{Start: int32(offset), End: int32(offset + len(name))}, near))
	}
}
