// Package refs reads what files say about each other and about themselves:
// imports, package and namespace lines, links, and the keys of settings. Each
// language's reader gives the same few things, so that rules, moves and answers
// need not know languages.
package refs

import (
	"cmp"
	"path"
	"slices"
	"strings"
)

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
)

// A Ref is one thing that a file says.
type Ref struct {
	Kind Kind
	// Name is what is named: the module of an import as written, the package, the
	// target of a link, the keys of a setting from the top with "." between them.
	Name string
	// Value is the value of a Key, the imported names of an Import with "," between
	// them, or the element of a Link, such as "script".
	Value        string
	Line, Column int // from 1, the column in bytes
	Relative     int // of a Python import: how many dots stand before the name
}

// A File is what a reader found in one file.
type File struct {
	Refs []Ref
	// Broken says why the file could not be read to its end, "" if it could, and
	// BrokenLine where. What stands before was read.
	Broken     string
	BrokenLine int
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

// A reader reads one text. It never fails: what it cannot read it leaves out
// and notes in Broken.
type reader func(text []byte) File

// byName and byEnding list the readers. A name wins over an ending.
var (
	byName = map[string]reader{
		"Dockerfile": readContainer, "Containerfile": readContainer,
		"go.mod": readGoMod, "Pipfile": readTOML, "tsconfig.json": readJSON,
	}
	byEnding = map[string]reader{
		".go": readGo, ".py": readPython,
		".js": readScript, ".mjs": readScript, ".cjs": readScript, ".jsx": readScript,
		".ts": readScript, ".mts": readScript, ".cts": readScript, ".tsx": readScript,
		".vue": readVue, ".svelte": readVue,
		".kt": readKotlin, ".kts": readKotlin, ".java": readJava, ".php": readPHP,
		".rb": readRuby, ".rake": readRuby, ".dart": readDart, ".cs": readCSharp, ".swift": readSwift,
		".sql": readSQL, ".html": readHTML, ".htm": readHTML, ".css": readCSS, ".scss": readCSS,
		".json": readJSON, ".jsonc": readJSON, ".toml": readTOML, ".yaml": readYAML, ".yml": readYAML,
		".xml": readXML, ".csproj": readXML, ".slnx": readXML, ".env": readEnv,
	}
)

// Reads says whether there is a reader for a file of that name.
func Reads(name string) bool { return readerOf(name) != nil }

func readerOf(name string) reader {
	base := path.Base(name)
	if read := byName[base]; read != nil {
		return read
	}
	switch {
	case base == ".env" || strings.HasPrefix(base, ".env.") || base == ".flaskenv":
		return readEnv
	case strings.HasPrefix(base, "Dockerfile.") || strings.HasSuffix(base, ".Dockerfile"):
		return readContainer
	case strings.HasPrefix(base, "requirements") && strings.HasSuffix(base, ".txt"):
		return readRequirements
	}
	return byEnding[path.Ext(base)]
}

// Read reads the text of the file called name; the zero File where no reader
// knows it.
func Read(name string, text []byte) File {
	read := readerOf(name)
	if read == nil {
		return File{}
	}
	f := read(text)
	slices.SortStableFunc(f.Refs, func(a, b Ref) int { return cmp.Or(a.Line-b.Line, a.Column-b.Column) })
	return f
}

// lines turns offsets into lines and columns.
type lines struct{ starts []int }

func linesOf(text []byte) lines {
	starts := []int{0}
	for i, c := range text {
		if c == '\n' {
			starts = append(starts, i+1)
		}
	}
	return lines{starts}
}

func (l lines) at(offset int) (line, column int) {
	i, found := slices.BinarySearch(l.starts, offset)
	if !found {
		i--
	}
	return i + 1, offset - l.starts[i] + 1
}

// IsCode says whether a file of that name is a program's text or a document that
// names others, rather than settings.
func IsCode(name string) bool {
	switch path.Ext(name) {
	case ".json", ".jsonc", ".toml", ".yaml", ".yml", ".xml", ".env", ".csproj", ".slnx":
		return false
	}
	return Reads(name)
}

// Parses says whether a file of that name is read by a parser of its language,
// which knows where it breaks off; the other readers only go by patterns.
func Parses(name string) bool {
	switch path.Ext(name) {
	case ".go", ".json", ".toml", ".yaml", ".yml", ".xml":
		return true
	}
	return false
}
