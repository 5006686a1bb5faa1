// Package refs reads what files say about each other and about themselves, and
// finds out where it leads: imports, package and namespace lines, links, and the
// keys of settings. Each language has a folder below lang, with its reader and its
// way of looking names up; all give the same few things, so that rules, moves and
// answers need not know languages.
package refs

import (
	"bytes"
	"cmp"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/container"
	"dicaxon/internal/refs/lang/dart"
	"dicaxon/internal/refs/lang/dbt"
	"dicaxon/internal/refs/lang/dotnet"
	"dicaxon/internal/refs/lang/golang"
	"dicaxon/internal/refs/lang/jvm"
	"dicaxon/internal/refs/lang/markdown"
	"dicaxon/internal/refs/lang/php"
	"dicaxon/internal/refs/lang/pip"
	"dicaxon/internal/refs/lang/python"
	"dicaxon/internal/refs/lang/ruby"
	"dicaxon/internal/refs/lang/rust"
	"dicaxon/internal/refs/lang/script"
	"dicaxon/internal/refs/lang/settings"
	"dicaxon/internal/refs/lang/swift"
	"dicaxon/internal/refs/lang/web"
	"dicaxon/internal/refs/lang/xcode"
	"dicaxon/internal/safe"
)

// What the readers give; see package lang.
type (
	Kind = lang.Kind
	Ref  = lang.Ref
	File = lang.File
	Span = lang.Span
	Tree = lang.Tree
)

// The kinds of references.
const (
	Import  = lang.Import
	Package = lang.Package
	Link    = lang.Link
	Key     = lang.Key
	Source  = lang.Source
	Model   = lang.Model
	Path    = lang.Path
	Type    = lang.Type
	Anchor  = lang.Anchor
)

// languages are all that are read.
var languages = []*lang.Language{
	&container.Language, &dart.Language, &dbt.Language, &dotnet.Language, &golang.Language, &golang.Module, &jvm.Kotlin, &jvm.Java,
	&markdown.Language, &markdown.MDX, &php.Language, &python.Language, &ruby.Language, &rust.Language, &script.Language, &script.Component, &script.Page,
	&settings.JSON, &settings.YAML, &settings.TOML, &settings.XML, &settings.INI, &settings.Env, &swift.Language, &web.HTML, &web.CSS, &xcode.Language,
}

var byName, byEnding = map[string]*lang.Language{}, map[string]*lang.Language{}

func init() {
	for _, l := range languages {
		for _, name := range l.Names {
			byName[name] = l
		}
		for _, ending := range l.Endings {
			byEnding[ending] = l
		}
	}
}

// Languages lists all that are read.
func Languages() []*lang.Language { return languages }

// languageOf gives the language of a file by its name, or nil.
func languageOf(name string) *lang.Language {
	base := path.Base(name)
	if l := byName[base]; l != nil {
		return l
	}
	switch {
	case strings.HasPrefix(base, ".env."):
		return &settings.Env
	case strings.HasPrefix(base, "Dockerfile.") && byEnding[path.Ext(base)] == nil && path.Ext(base) != ".txt" || strings.HasSuffix(base, ".Dockerfile"):
		return &container.Language
	case pip.IsList(name):
		return &pip.Language
	}
	return byEnding[path.Ext(base)]
}

// Reads says whether there is a reader for a file of that name.
func Reads(name string) bool { return languageOf(name) != nil }

// IsCode says whether a file of that name is a program's text or a document that
// names others, rather than settings.
func IsCode(name string) bool {
	l := languageOf(name)
	return l != nil && !l.Settings
}

// Parses says whether a file of that name is read by a parser of its language,
// which knows where it breaks off; the other readers only go by patterns.
func Parses(name string) bool {
	l := languageOf(name)
	return l != nil && l.Parses
}

// mostRefs is how many references of one file are followed: more are a program's work.
const mostRefs = 50_000

// mostUses is how many names of one file are kept, of each kind.
const mostUses = 5_000

// settingsOfCode is what people call a program's text that holds settings.
var settingsOfCode = lazy.New(`^(?:config|configuration|settings|database|db|connection|secrets)\.\w+$`)

// wholeText is the length from which a text may be no more than the start of its file.
const wholeText = 1 << 20

// Read reads the text of the file called name; a File without references where no
// reader knows it.
func Read(name string, text []byte) File {
	l := languageOf(name)
	if l == nil {
		return File{}
	}
	text, marked := safe.WithoutMark(text)
	f := l.Read(text)
	if len(f.Refs) > mostRefs {
		f.Refs, f.Open = f.Refs[:mostRefs:mostRefs], true
	}
	f.Uses.Cut(mostUses)
	f.Open = f.Open || len(text) >= wholeText
	code := !l.Settings && l.Writes() != nil
	if code {
		f.Quotes = quotesIn(text, f.Refs)
	}
	if l.Settings || l.Writes() != nil && settingsOfCode.MatchString(path.Base(name)) {
		f.Credentials = Credentials(text)
	} else {
		f.Credentials = keysIn(text)
	}
	if code {
		f.Credentials = append(f.Credentials, append(passwordsIn(text), tokensIn(text)...)...)
	}
	if i := bytes.IndexByte(text, '\n'); i > 0 {
		f.Returns = text[i-1] == '\r'
	}
	var at *lang.Lines
	for i := range f.Refs {
		if r := &f.Refs[i]; r.Line == 0 {
			if at == nil {
				lines := lang.LinesOf(text)
				at = &lines
			}
			start := r.Span.Start
			if r.Span.Len() == 0 && r.ValueSpan.Len() > 0 {
				start = r.ValueSpan.Start
			}
			r.Line, r.Column = at.At(int(start))
		}
	}
	if f.Mark = marked; marked { // spans are those of the file
		for i := range f.Refs {
			f.Refs[i].Span, f.Refs[i].ValueSpan = behindMark(f.Refs[i].Span), behindMark(f.Refs[i].ValueSpan)
		}
		for i := range f.Quotes {
			f.Quotes[i].Span = behindMark(f.Quotes[i].Span)
		}
		f.Uses.Each(func(s *Span) { *s = behindMark(*s) })
	}
	slices.SortStableFunc(f.Refs, func(a, b Ref) int { return cmp.Or(a.Line-b.Line, a.Column-b.Column) })
	return f
}

// behindMark moves a span by the length of the mark that stands before it.
func behindMark(s Span) Span {
	if s.Len() > 0 {
		s.Start, s.End = s.Start+int32(len(safe.Mark)), s.End+int32(len(safe.Mark))
	}
	return s
}

// Place gives the line and the column, from 1, of where a span begins in a text.
func Place(text []byte, s Span) (line, column int) {
	return lang.LinesOf(text[:min(int(s.Start), len(text))]).At(int(s.Start))
}

// Code gives the text of the file called name with its comments blank, where
// the language is known; offsets and lines stay.
func Code(name string, text []byte) []byte {
	l := languageOf(name)
	if l == nil || l.Writes() == nil {
		return text
	}
	code, _ := l.Writes().Scrub(text)
	shown := bytes.Clone(text)
	for i, c := range code {
		if c == ' ' {
			shown[i] = ' '
		}
	}
	return shown
}

// Scrub gives the text of the file called name with its comments blank and the texts of its strings
// hidden behind NULs, where the language is known, and else nil; offsets and lines stay.
func Scrub(name string, text []byte) []byte {
	l := languageOf(name)
	if l == nil || l.Writes() == nil {
		return nil
	}
	code, _ := l.Writes().Scrub(text)
	return code
}
