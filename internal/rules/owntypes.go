package rules

import (
	"bytes"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var ownMembers = &Rule{
	Name: "own-members", Kind: finding.Dangling, Level: finding.Error,
	Doc: "Types of the project have what is asked of them: a class all that the interfaces ask which it is built on, and a thing what code asks of it, as far as its type nearly has that. It is silent where something may come from elsewhere.",
	Example: `- rule: own-members
  files: "**/*.java"
  types: [class, interface, enum, record]
  bases: '\b(?:implements|extends)\s+([\w., ]+)'
  gives: '(?m)^[ \t]*(?:public |protected |private |static |final |default )*[\w<>?\[\]., ]+ (\w+)\s*[(;=]'
  interfaces: '\binterface\s'
  asks: '\b(\w+)\s*\([^()]*\)\s*;'
  typed: before`,
	Options: []Option{
		{"files", Paths, true, "the files that declare types and use them", true},
		{"types", Texts, true, "the words that stand before the name of a type; what stands behind it up to a brace is its head, and what the braces hold its body", false},
		{"adds", Finders, false, "finds what adds to a type outside of its own body, up to the name of that, which is the first group", false},
		{"bases", Finders, true, "finds in a head, without its brackets, what the type is built on: names with commas between them", false},
		{"gives", Finders, true, "finds in a head or a body what the type has: the first group is the name", false},
		{"open", Regexps, false, "what a type says, or stands before it, that may have more than stands there", false},
		{"plain", Regexps, false, "the names of types of others from which nothing comes", false},
		{"interfaces", Regexps, false, "what stands before the name of a type that asks something of those which are built on it", false},
		{"asks", Finders, false, "finds in the body of such a type, without what brackets in it hold, what it asks: its first group is the name", false},
		{"all-have", Regexps, false, "the names of what every type has, without a word", false},
		{"unless", Regexps, false, "what the body of such a type says that gives what it asks by itself", false},
		{"fills", Finders, false, "finds in the brackets behind the name of a type, without what brackets in them hold, what of it is given a value: the first group is the name", false},
		{"typed", Text, false, "before, where the type of a thing stands before its name, or after, where it stands after a colon behind it; if left out, nothing is told of things", false},
	},
	Check: func(_ *layout.Layout, option, value string) error {
		if option == "typed" && value != typedBefore && value != typedAfter {
			return fmt.Errorf("%s is %s or %s", option, typedBefore, typedAfter)
		}
		return nil
	},
	Run: func(c *Call) {
		types := c.readTypes()
		if c.regexps["asks"] != nil {
			c.tellUnkept(types)
		}
		if c.text("typed") != "" && len(types.all) > 0 {
			c.tellUnknown(types)
		}
		if c.regexps["fills"] != nil {
			c.tellWrongValues(types)
		}
	},
}

// An ownType is one that a file of the project declares, read by its text alone, or what a file adds to one.
type ownType struct {
	name, at           string
	start              int // of its name in the file
	adds               bool
	before, head, body []byte
	bases, gives       []string // once somebody asks
}

// holds says whether a place of a file lies in the body of a type.
func (o *ownType) holds(at int) bool {
	from := o.start + len(o.head)
	return at > from && at <= from+len(o.body)
}

// ownTypes are those of a project by their names: of one name there may be several.
type ownTypes struct {
	call *Call
	all  []*ownType
	by   map[string][]*ownType

	byFile   map[string][]*ownType // see in
	said     map[string]bool       // the words that stand for themselves somewhere
	families map[string]*family    // once somebody asks
	givers   *givers               // who know what files see
}

// readTypes reads the types that the files of the rule declare: those whose names begin with a capital.
func (c *Call) readTypes() *ownTypes {
	t := &ownTypes{call: c, by: map[string][]*ownType{}, said: map[string]bool{}, families: map[string]*family{}, givers: &givers{Call: c}}
	words := map[string]bool{}
	for _, word := range c.texts("types") {
		words[word] = true
	}
	behind := 0 // where the last such word ends
	c.eachWord(func(file string, code []byte, at int, word []byte) {
		if !t.said[string(word)] && askedWith(code, at) == "" {
			t.said[string(word)] = true
		}
		if words[string(word)] {
			behind = at + len(word)
			return
		}
		if behind == 0 || behind > at || !isCapital(word) || len(bytes.TrimSpace(code[behind:at])) > 0 {
			return
		}
		behind = 0
		t.add(&ownType{name: string(word), at: file, start: at}, code)
	})
	t.readAdded()
	return t
}

// add notes a type, or what adds to one, where it has a head.
func (t *ownTypes) add(o *ownType, code []byte) {
	if o.head, o.body = headAndBody(code[o.start:]); o.head != nil {
		o.before = code[bytes.LastIndexAny(code[:o.start], ";{}")+1 : o.start]
		t.all, t.by[o.name] = append(t.all, o), append(t.by[o.name], o)
	}
}

// readAdded reads what the files add to types.
func (t *ownTypes) readAdded() {
	if t.call.regexps["adds"] == nil {
		return
	}
	t.call.eachCode(func(file string, code []byte) {
		for _, re := range t.call.regexps["adds"] {
			for _, m := range re.FindAll(code) {
				t.add(&ownType{name: string(code[m[2]:m[3]]), at: file, start: m[2], adds: true}, code)
			}
		}
	})
}

// declared says whether the project declares a type of that name, and does not only add to one.
func (t *ownTypes) declared(name string) bool {
	return slices.ContainsFunc(t.by[name], func(o *ownType) bool { return !o.adds })
}

// around gives the inmost type in whose body a place of a file lies, "" for none.
func (t *ownTypes) around(file string, at int) (name string) {
	inmost := -1
	for _, o := range t.in(file) {
		if o.start > inmost && o.holds(at) {
			name, inmost = o.name, o.start
		}
	}
	return name
}

// in gives the types that a file declares or adds to.
func (t *ownTypes) in(file string) []*ownType {
	if t.byFile == nil {
		t.byFile = map[string][]*ownType{}
		for _, o := range t.all {
			t.byFile[o.at] = append(t.byFile[o.at], o)
		}
	}
	return t.byFile[file]
}

// isOpen says whether a type may have more than stands there.
func (c *Call) isOpen(o *ownType) bool {
	return anyFits(c.regexps["open"], o.before) || anyFits(c.regexps["open"], o.head) || anyFits(c.regexps["open"], o.body)
}

// headAndBody cuts what a type says, from its name on, into its head and what its braces hold: none for a
// type that ends with its head.
func headAndBody(code []byte) (head, body []byte) {
	depth := 0
	for i, b := range code[:min(len(code), mostHead)] {
		switch b {
		case '(', '[':
			depth++
		case ')', ']':
			depth--
		case ';':
			if depth <= 0 {
				return code[:i], nil
			}
		case '{':
			if depth <= 0 {
				body := code[i+1:]
				if end := closing(body, "{}"); end >= 0 {
					body = body[:end]
				}
				return code[:i], body
			}
		}
	}
	return nil, nil
}

// mostHead is how far a type's body is looked for behind its name.
const mostHead = 4000

// bracketed are the brackets in the head of a type, with what they hold, from the inmost on.
var bracketed = lazy.New(`\([^()]*\)|<[^<>]*>|\[[^\[\]]*\]`)

// basesOf gives the last names of what a type is built on.
func (c *Call) basesOf(o *ownType) []string {
	if o.bases != nil {
		return o.bases
	}
	o.bases = []string{}
	head := o.head
	if o.adds {
		head = slices.Concat(o.before, head)
	}
	for before := []byte(nil); !bytes.Equal(before, head); {
		before, head = head, bracketed.Get().ReplaceAll(head, nil)
	}
	for _, re := range c.regexps["bases"] {
		for _, list := range groupsIn(re, head) {
			for _, name := range strings.Split(list, ",") {
				words := strings.FieldsFunc(name, func(r rune) bool { return r > 127 || !lang.WordByte(byte(r)) })
				if len(words) > 0 {
					o.bases = append(o.bases, words[len(words)-1])
				}
			}
		}
	}
	return o.bases
}

// A family is a type with all that it is built on.
type family struct {
	types []*ownType
	open  bool // something of it may have more than stands here
}

// family gives a type's; with what else is called so, since a text does not say which is meant.
func (t *ownTypes) family(name string) *family {
	return foundOnce(t.families, name, func() *family { return t.gather(name) })
}

func (t *ownTypes) gather(name string) *family {
	f := &family{}
	var add func(name string)
	add = func(name string) {
		for _, o := range t.by[name] {
			if slices.Contains(f.types, o) {
				continue
			}
			f.types, f.open = append(f.types, o), f.open || t.call.isOpen(o)
			for _, base := range t.call.basesOf(o) {
				if t.sees(o.at, base) {
					add(base)
				} else {
					f.open = f.open || !anyFits(t.call.regexps["plain"], []byte(base))
				}
			}
		}
	}
	add(name)
	f.open = f.open || !t.declared(name)
	return f
}

// sees says whether a name of a type means one of the project's in a file: one that it imports, or that stands in
// it, in its package or in one that its project imports for all.
func (t *ownTypes) sees(at, name string) bool {
	c := t.call
	said := c.refsOf(at)
	isOwn := func(file string) bool {
		return slices.ContainsFunc(t.by[name], func(o *ownType) bool { return o.at == file })
	}
	if len(t.by[name]) == 0 || lang.HasWord(c.Graph.Code(at), name) && givenAs(c.Graph.Code(at), name) {
		return false
	}
	if isOwn(at) {
		return true
	}
	for _, r := range said.Of(refs.Import) {
		if last := strings.FieldsFunc(r.Name, func(b rune) bool { return strings.ContainsRune(`./\:`, b) }); r.Value == name || len(last) > 0 && last[len(last)-1] == name {
			return slices.ContainsFunc(c.Graph.Resolve(at, r), func(to string) bool { return isOwn(to) || t.handsOn(to, name) })
		}
	}
	switch path.Ext(at) {
	case ".ts", ".tsx":
		return false
	case ".java", ".php", ".kt":
		here := said.Package()
		return slices.ContainsFunc(t.by[name], func(o *ownType) bool {
			there := c.refsOf(o.at).Package()
			return here == nil && there == nil || here != nil && there != nil && here.Name == there.Name
		})
	case ".cs":
		return slices.ContainsFunc(t.by[name], func(o *ownType) bool {
			there := c.refsOf(o.at).Package()
			return there == nil || t.givers.visible(at, said, there.Name)
		})
	}
	return true
}

// handsOn says whether a module of TypeScript hands on the one type of a name.
func (t *ownTypes) handsOn(at, name string) bool {
	return len(t.by[name]) == 1 && kin(path.Ext(at), ".ts") && handsOnNames.Match(t.call.Graph.Code(at)) && lang.HasWord(t.call.Graph.Code(at), name)
}

// handsOnNames is a module that gives names of others.
var handsOnNames = lazy.New(`(?m)^export\s+(?:type\s+)?\{[^}]*\}\s*from\b`)

// givenAs says whether a file gives something another name, which it imports.
func givenAs(code []byte, name string) bool {
	for _, i := range lang.Words(code, name) {
		if before := bytes.TrimRight(code[:i], " \t"); bytes.HasSuffix(before, []byte(" as")) {
			return true
		}
	}
	return false
}

// says whether a word stands anywhere in the types of a family.
func (f *family) says(word string) bool {
	return slices.ContainsFunc(f.types, func(o *ownType) bool { return lang.HasWord(o.head, word) || lang.HasWord(o.body, word) })
}

// given lists what the types of a family have.
func (c *Call) given(f *family) (all []string) {
	for _, o := range f.types {
		if o.gives == nil {
			o.gives = []string{}
			for _, re := range c.regexps["gives"] {
				o.gives = append(append(o.gives, groupsIn(re, o.head)...), groupsIn(re, o.body)...)
			}
			slices.Sort(o.gives)
			o.gives = slices.Compact(o.gives)
		}
		all = append(all, o.gives...)
	}
	return all
}

// topOf gives a body without what brackets in it hold.
func topOf(body []byte) []byte {
	top := bytes.Clone(body)
	depth := 0
	for i, b := range top {
		switch lang.Bracket(b) {
		case 1:
			if depth++; depth == 1 {
				continue
			}
		case -1:
			depth--
		}
		if depth > 0 && b != '\n' {
			top[i] = ' '
		}
	}
	return top
}
