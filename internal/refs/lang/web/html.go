// Package web reads pages and style sheets, and looks up what they load.
package web

import (
	"bytes"
	"io"
	"path"
	"strings"

	"golang.org/x/net/html"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// HTML is a page.
var HTML = lang.Language{Endings: []string{".html", ".htm"}, Read: readHTML, Resolve: resolve}

// links says which attributes of which element name another file.
var links = map[string][]string{
	"script": {"src"}, "link": {"href"}, "img": {"src"}, "a": {"href"}, "source": {"src"}, "iframe": {"src"},
	"video": {"src", "poster"}, "audio": {"src"}, "embed": {"src"}, "track": {"src"}, "object": {"data"},
}

// readHTML gives scripts, styles, pictures and links in the order of the
// document. The value is the element, or "stylesheet" for a style sheet.
func readHTML(text []byte) lang.File {
	var f lang.File
	z := html.NewTokenizer(bytes.NewReader(text))
	z.SetMaxBuf(1 << 20)
	offset := 0
	for {
		kind := z.Next()
		raw := z.Raw()
		if kind == html.ErrorToken {
			if err := z.Err(); err != io.EOF {
				f.Broken = err.Error()
				f.BrokenLine, _ = lang.LinesOf(text).At(min(offset, max(len(text)-1, 0)))
			}
			return f
		}
		if kind == html.StartTagToken || kind == html.SelfClosingTagToken {
			length := len(raw)
			name, _ := z.TagName()
			if element := string(name); links[element] != nil {
				f.Refs = append(f.Refs, linksIn(text, element, offset, offset+length)...)
			}
			offset += length
			continue
		}
		offset += len(raw)
	}
}

func linksIn(text []byte, element string, start, end int) []lang.Ref {
	var all []lang.Ref
	kind := element
	attributes(text, start, end, func(key string, value lang.Span, mark byte) {
		if key == "rel" && strings.EqualFold(string(value.In(text)), "stylesheet") {
			kind = "stylesheet"
		}
		for _, wanted := range links[element] {
			if key == wanted && value.Len() > 0 {
				all = append(all, lang.Ref{Kind: lang.Link, Name: html.UnescapeString(string(value.In(text))), Span: value, Quote: mark})
			}
		}
	})
	for i := range all {
		all[i].Value = kind
	}
	return all
}

// attributes gives the attributes of the tag between two offsets, their values
// without quotation marks: HTML, 13.2.5.32 and on.
func attributes(text []byte, start, end int, yield func(key string, value lang.Span, mark byte)) {
	i := start + 1
	for i < end && text[i] > ' ' && text[i] != '/' && text[i] != '>' {
		i++
	}
	for i < end {
		for i < end && (text[i] <= ' ' || text[i] == '/') {
			i++
		}
		key := i
		for i < end && text[i] > ' ' && text[i] != '=' && text[i] != '>' && text[i] != '/' {
			i++
		}
		name := strings.ToLower(string(text[key:i]))
		for i < end && text[i] <= ' ' {
			i++
		}
		if i >= end || text[i] != '=' {
			if key == i {
				i++
			}
			continue
		}
		i++
		for i < end && text[i] <= ' ' {
			i++
		}
		var mark byte
		from := i
		if i < end && (text[i] == '"' || text[i] == '\'') {
			mark = text[i]
			from = i + 1
			for i = from; i < end && text[i] != mark; i++ {
			}
		} else {
			for i < end && text[i] > ' ' && text[i] != '>' {
				i++
			}
		}
		yield(name, lang.At(from, min(i, end)), mark)
		if mark != 0 {
			i++
		}
	}
}

// filled are marks of a page that a program fills in: its paths are not what is
// written.
var filled = lazy.New(`\{\{|\{%|<%|<\?|\$\{|#\{|\[\[|<%=|\{#|%[\w.]+%|__[A-Z_]+__|<base\b`)

var whole = lazy.New(`(?i)<!doctype|<html\b`)

// inline is code and templates that a page carries for its own scripts.
var inline = lazy.New(`(?is)<script\b[^>]*>.*?</script`)

func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	name := ref.Name
	if i := strings.IndexAny(name, "?#"); i >= 0 {
		name = name[:i]
	}
	if name == "" || strings.ContainsAny(name, ":{}<>$@*`\\ ") || strings.HasPrefix(name, "//") {
		return lang.Answer{}
	}
	var answer lang.Answer
	if rest, ok := strings.CutPrefix(name, "/"); ok {
		home, _ := l.Nearest(from, "package.json", "index.html")
		answer.Sought = []string{path.Join(home, rest), path.Join(home, "public", rest), path.Join(home, "static", rest), rest, path.Join("public", rest), path.Join("static", rest)}
		_, built := l.Nearest(from, "package.json")
		first, _, deep := strings.Cut(rest, "/")
		// The bundler's root is that of the package, or the folder of the page.
		root := l.IsFile(path.Join(home, "package.json")) || deep && l.IsFolder(path.Join(home, first))
		answer.To = l.There(answer.Sought...)
		// A page that a bundler builds names its script from the package.
		answer.Own = ref.Value == "script" && built != "" && path.Dir(from) == home && root && isSource(name)
	} else {
		answer = l.Relative(from, name)
		answer.Own = ref.Value != "a" || strings.HasSuffix(name, ".html") || strings.HasSuffix(name, ".htm")
		answer.Only = ref.Value == "a"
	}
	if len(answer.To) > 0 {
		return answer
	}
	answer.Fails = ref.Value == "script"
	answer.Own = answer.Own && !strings.HasPrefix(answer.Sought[0], "..") && (path.Ext(from) == ".css" || isPage(l, from))
	return answer
}

// isPage says whether a file is a whole page whose paths are what is written: a
// part is put into others, which may lie elsewhere.
func isPage(l *lang.Look, at string) bool {
	return lang.Once(l, "web page "+at, func() bool {
		text := l.TextOf(at)
		return whole.Match(text) && !filled.Match(inline.Get().ReplaceAllFunc(text, openingTag))
	})
}

// openingTag gives an element without what is in it.
func openingTag(element []byte) []byte { return element[:bytes.IndexByte(element, '>')+1] }

func isSource(name string) bool {
	switch path.Ext(name) {
	case ".ts", ".tsx", ".jsx", ".js", ".mjs", ".vue", ".svelte":
		return true
	}
	return false
}
