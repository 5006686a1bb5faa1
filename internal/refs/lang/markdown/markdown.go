// Package markdown reads the links and pictures of Markdown, CommonMark 0.31,
// 4.7, 6.3 and 6.4, as far as patterns over lines can tell them.
package markdown

import (
	"bytes"
	"net/url"
	"path"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/script"
	"dicaxon/internal/refs/lang/settings"
)

// Language is Markdown.
var Language = lang.Language{Endings: []string{".md", ".markdown"}, Read: read, Resolve: resolve}

var endings = []string{".md", ".mdx", ".markdown"}

var (
	inline        = lazy.New("(!?)\\[(?:[^\\[\\]]|\\[[^\\[\\]]*\\])*\\]\\(\\s*<?([^\\s()<>]+(?:\\([^\\s()]*\\)[^\\s()<>]*)*)>?(?:\\s+[\"'(][^)]*)?\\s*\\)")
	definition    = lazy.New(`^ {0,3}\[[^\]]+\]:\s*<?([^\s<>]+)>?`)
	pictured      = lazy.New(`^\.{1,2}/[^\s:]+\.(?:png|jpe?g|webp|avif|gif|svg)$`) // a value of front matter
	withoutScheme = lazy.New(`^[\w-]+(?:\.[\w-]+)*\.(?:com|org|net|io|dev)/`)      // an address
	codeSpan      = lazy.New("`+[^`]*`+")
	spanOfPath    = lazy.New("^`((?:[\\w@-][\\w@.-]*/)+(?:[\\w@-][\\w@.-]*)?)`$") // a file or a folder of some folder
)

func read(text []byte) lang.File {
	f, front := settings.FrontMatter(text)
	f.Broken, f.BrokenLine = "", 0 // a line that only looks like front matter breaks nothing
	for _, k := range f.Of(lang.Key) {
		if pictured.MatchString(k.Value) {
			f.Refs = append(f.Refs, lang.Ref{Kind: lang.Link, Name: k.Value, Value: "img", Span: k.ValueSpan})
		}
	}
	var open fence
	var above lang.Span // the line before, where it may be a heading
	for start := front; start < len(text); {
		end := start + lang.LineLength(text[start:])
		line := text[start:end]
		trimmed := strings.TrimSpace(string(line))
		switch {
		case open.passes(trimmed):
		case strings.HasPrefix(string(line), "    "), strings.HasPrefix(string(line), "\t"):
		default:
			f.Refs = append(f.Refs, linksIn(line, start)...)
			f.Quotes = append(f.Quotes, pathsIn(line, start)...)
			anchors, more := anchorsOf(text, lang.At(start, end), above)
			f.Refs, f.Open = append(f.Refs, anchors...), f.Open || more
		}
		above = lang.At(start, start+len(bytes.TrimRight(line, " \t\r")))
		if open != "" || trimmed == "" || strings.ContainsAny(trimmed[:1], "|>") || strings.ContainsAny(string(line[:1]), " \t") {
			above = lang.Span{}
		}
		start = end + 1
	}
	return f
}

// A fence is the sign between which a block of code stands open, "" outside of one (CommonMark, 4.5).
type fence string

// passes goes by a line, without the blanks around it, and says whether it is one of such a block.
func (f *fence) passes(trimmed string) bool {
	switch {
	case *f != "":
		if strings.HasPrefix(trimmed, string(*f)) {
			*f = ""
		}
		return true
	case strings.HasPrefix(trimmed, "```"), strings.HasPrefix(trimmed, "~~~"):
		*f = fence(trimmed[:3])
		return true
	}
	return false
}

func linksIn(line []byte, start int) []lang.Ref {
	shown := append([]byte(nil), line...)
	for _, m := range codeSpan.Get().FindAllIndex(line, -1) {
		lang.Blank(shown[m[0]:m[1]])
	}
	var all []lang.Ref
	for _, m := range inline.FindAll(shown) {
		r := lang.Ref{Kind: lang.Link, Name: string(shown[m[4]:m[5]]), Value: "a", Span: lang.At(start+m[4], start+m[5])}
		if m[3] > m[2] {
			r.Value = "img"
		}
		all = append(all, r)
	}
	if m := definition.Get().FindSubmatchIndex(shown); m != nil {
		all = append(all, lang.Ref{Kind: lang.Link, Name: string(shown[m[2]:m[3]]), Value: "a", Span: lang.At(start+m[2], start+m[3])})
	}
	return all
}

// pathsIn gives the code spans of a line that are paths.
func pathsIn(line []byte, start int) (all []lang.Quoted) {
	for _, m := range codeSpan.Get().FindAllIndex(line, -1) {
		if p := spanOfPath.Get().FindSubmatchIndex(line[m[0]:m[1]]); p != nil {
			at := lang.At(start+m[0]+p[2], start+m[0]+p[3])
			all = append(all, lang.Quoted{Name: string(line[m[0]+p[2] : m[0]+p[3]]), Span: at})
		}
	}
	return all
}

// resolve looks a link up from the folder of the document. A generator of sites
// may let the ending out or change it.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind == lang.Import {
		return script.Language.Resolve(l, from, ref)
	}
	name := ref.Name
	if i := strings.IndexAny(name, "?#"); i >= 0 {
		name = name[:i]
	}
	if plain, err := url.PathUnescape(name); err == nil {
		name = plain
	}
	if name == "" {
		if a := within(l, ref, lang.Answer{To: []string{from}}); a.Within != "" {
			return a
		}
		return lang.Answer{}
	}
	if withoutScheme.MatchString(name) || name[0] == '/' || strings.ContainsAny(name, ":{}<>$@*`\\ ") {
		return lang.Answer{}
	}
	at := path.Join(path.Dir(from), name)
	if strings.HasPrefix(at, "..") {
		return lang.Answer{}
	}
	answer := lang.Answer{To: l.There(at), Sought: []string{at}}
	if len(answer.To) > 0 || at == "." {
		return within(l, ref, answer)
	}
	stem := strings.TrimSuffix(strings.TrimSuffix(at, ".html"), ".htm")
	tries := []string{stem + ".md", stem + ".mdx", stem + ".rst", stem + ".ipynb", stem + "/index.md", stem + "/README.md", stem + ".html.md"}
	if found := l.First(tries...); found != nil && path.Ext(at) != ".md" {
		return within(l, ref, lang.Answer{To: found, How: lang.Convention})
	}
	// A site may give each page a folder of its own.
	page := path.Join(path.Dir(from), strings.TrimSuffix(path.Base(from), path.Ext(from)), name)
	if found := l.First(page+".md", page+".mdx", page, page+"/index.md", page+"/index.mdx", strings.TrimSuffix(page, ".html")+".md"); found != nil {
		return within(l, ref, lang.Answer{To: found, How: lang.Convention})
	}
	// It may have the address of the folder around, where the page is the first of its own.
	if stem := strings.ToLower(strings.TrimSuffix(path.Base(from), path.Ext(from))); stem == "index" || stem == "readme" {
		page := path.Join(path.Dir(path.Dir(from)), strings.TrimSuffix(name, ".html"))
		if found := l.First(page+".md", page+".mdx", page+"/index.md", page+"/README.md"); found != nil {
			return lang.Answer{To: found, How: lang.Likely}
		}
	}
	answer.Own = path.Ext(at) != "" || strings.Contains(name, "/")
	answer.Only = !strings.Contains(path.Base(at), ".") || stem != at
	return answer
}
