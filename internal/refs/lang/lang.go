// Package lang holds what the readers and resolvers of all languages share: what a
// reference is, how a text is taken apart, and how a project is asked where a name
// leads. Each language is a folder below, its reader beside its resolver.
package lang

import "slices"

// A Kind says what a reference is.
type Kind uint8

// The kinds.
const (
	Import  Kind = iota // another module, package or file that this one needs
	Package             // the package, namespace or module that the file says it is in
	Link                // a script, style sheet, picture or page that a document names
	Key                 // a key of settings with its value
	Source              // a table outside the project that a SQL template reads
	Model               // a model of the project that a SQL template reads
	Path                // a path that a build or start file names
	Type                // a type that the file declares
	Anchor              // a place of a document that links may lead to
)

// Program is the value of a Path at which a program is found that writes code.
const Program = "program"

// Leads says whether a reference of the kind names what stands elsewhere, and not what the
// file itself is, has or sets.
func (k Kind) Leads() bool { return k != Package && k != Key && k != Type && k != Anchor }

// A Span is where characters stand in a text, in bytes from its start; the zero
// Span is nowhere.
type Span struct{ Start, End int32 }

// At makes a Span of offsets.
func At(start, end int) Span { return Span{int32(start), int32(end)} }

// Len says how many bytes the span has.
func (s Span) Len() int { return int(s.End - s.Start) }

// In gives the bytes of a text that the span covers, nil where it reaches beyond.
func (s Span) In(text []byte) []byte {
	if s.Start < 0 || s.End < s.Start || int(s.End) > len(text) {
		return nil
	}
	return text[s.Start:s.End]
}

// A Ref is one thing that a file says. Of several names that one statement
// imports, of several members of a group and of several items of a list, each is
// a Ref of its own.
type Ref struct {
	Kind Kind
	// Name is what is named: the module of an import as written, the package, the
	// target of a link, the keys of a setting from the top with "." between them.
	Name string
	// Value is the value of a Key, what an Import takes out of what it names, or
	// the element of a Link, such as "script".
	Value string
	// Span holds exactly the characters of what is named, without quotation marks;
	// of a Key those of the last key in its name. ValueSpan holds those of the
	// value. Either is the zero Span where the text does not hold it as such.
	Span, ValueSpan Span
	Quote           byte // the mark that stands before what is named, 0 for none
	// Line and Column are where the reference stands, from 1, the column in bytes:
	// where its Span begins, unless the Span is nowhere.
	Line, Column int
	Relative     int  // of a Python import: how many dots stand before the name
	Listed       bool // it stands in a list of modules for a loader, which has them from where it likes
	Guarded      bool // the program goes on where it leads nowhere; of a Package: not every build takes the file in
}

// Edit gives the characters that would change if what is named moved: of a
// setting its value.
func (r *Ref) Edit() Span {
	if r.Kind == Key || r.Kind == Import && r.Name == "" {
		return r.ValueSpan
	}
	return r.Span
}

// A File is what a reader found in one file.
type File struct {
	Refs []Ref
	// Broken says why the file could not be read to its end, "" if it could, and
	// BrokenLine where. What stands before was read.
	Broken     string
	BrokenLine int
	Words      Vocabulary // of a module: the words of its text; of a Go file: the names before a dot
	Open       bool       // it may give names that its text does not hold
	Mark       bool       // a byte-order mark stands at its start
	Returns    bool       // its lines end in carriage return and line feed

	Credentials []Credential // in plain sight
	Quotes      []Quoted     // of code: paths that may be those of files that it reads
	Uses        Uses         // of a module
}

// A Quoted is a text between quotation marks that looks like the path of a file.
type Quoted struct {
	Name string
	Span Span
}

// A Credential is a key, a token or a password that a text holds.
type Credential struct {
	What string // it looks like, such as "a private key"; never the thing itself
	Line int
}

// Of gives the references of one kind, in the order of the text.
func (f *File) Of(kind Kind) []Ref {
	var all []Ref
	for _, r := range f.Refs {
		if r.Kind == kind {
			all = append(all, r)
		}
	}
	return all
}

// Package gives the package that the file says it is in, or nil.
func (f *File) Package() *Ref {
	for i := range f.Refs {
		if f.Refs[i].Kind == Package {
			return &f.Refs[i]
		}
	}
	return nil
}

// Get gives the setting of that name, or nil.
func (f *File) Get(key string) *Ref {
	for i := range f.Refs {
		if f.Refs[i].Kind == Key && f.Refs[i].Name == key {
			return &f.Refs[i]
		}
	}
	return nil
}

// A Language is one way of saying things in files, with the way in which names
// are looked up there.
type Language struct {
	Names   []string // of files; they win over endings
	Endings []string
	// Read reads one text. It never fails: what it cannot read it leaves out and
	// notes in Broken.
	Read func(text []byte) File
	// Resolve says where a reference leads; nil where names are paths from the
	// folder that the file is in.
	Resolve func(l *Look, from string, ref Ref) Answer
	// Patterns are those that it is read by, and Lexis how comments are written where
	// it is read otherwise; nil for none.
	Patterns *Patterns
	Lexis    *Lexis
	// Settings says that a file is neither a program's text nor a document.
	Settings bool
	// Parses says that a parser of the language reads it, which knows where it
	// breaks off; other readers go by patterns.
	Parses bool
}

// Lines turns offsets into lines and columns.
type Lines struct{ starts []int }

// LinesOf finds the lines of a text.
func LinesOf(text []byte) Lines {
	starts := []int{0}
	for i, c := range text {
		if c == '\n' {
			starts = append(starts, i+1)
		}
	}
	return Lines{starts}
}

// At gives the line and the column of an offset, both from 1, the column in bytes.
func (l Lines) At(offset int) (line, column int) {
	i, found := slices.BinarySearch(l.starts, offset)
	if !found {
		i--
	}
	return i + 1, offset - l.starts[i] + 1
}

// Start gives where a line, from 1, begins; -1 where there is none.
func (l Lines) Start(line int) int {
	if line < 1 || line > len(l.starts) {
		return -1
	}
	return l.starts[line-1]
}

// Writes gives how comments are written in the language, nil where it has none.
func (l *Language) Writes() *Lexis {
	if l.Patterns != nil {
		return &l.Patterns.Lexis
	}
	return l.Lexis
}
