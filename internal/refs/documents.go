package refs

import (
	"bytes"
	"io"
	"strings"

	"golang.org/x/net/html"

	"dicaxon/internal/lazy"
)

// links says which attribute of which element names another file.
var links = map[string]string{
	"script": "src", "link": "href", "img": "src", "a": "href", "source": "src", "iframe": "src", "video": "src", "audio": "src",
}

// readHTML gives scripts, styles, pictures and links in the order of the
// document. The value is the element, or "stylesheet" for a style sheet.
func readHTML(text []byte) File {
	var f File
	at := linesOf(text)
	z := html.NewTokenizer(bytes.NewReader(text))
	z.SetMaxBuf(1 << 20)
	offset := 0
	for {
		kind := z.Next()
		raw := len(z.Raw())
		if kind == html.ErrorToken {
			if err := z.Err(); err != io.EOF {
				f.Broken = err.Error()
				f.BrokenLine, _ = at.at(min(offset, max(len(text)-1, 0)))
			}
			return f
		}
		if kind == html.StartTagToken || kind == html.SelfClosingTagToken {
			name, more := z.TagName()
			element, wanted := string(name), links[string(name)]
			target, rel := "", ""
			for more && wanted != "" {
				var key, value []byte
				key, value, more = z.TagAttr()
				switch string(key) {
				case wanted:
					target = string(value)
				case "rel":
					rel = string(value)
				}
			}
			if strings.EqualFold(rel, "stylesheet") {
				element = "stylesheet"
			}
			if target != "" {
				line, column := at.at(offset)
				f.Refs = append(f.Refs, Ref{Kind: Link, Name: target, Value: element, Line: line, Column: column})
			}
		}
		offset += raw
	}
}

var css = language{
	lexis: lexis{block: cBlock, strings: []quote{double, single}},
	statements: []statement{
		says(Import, "@import @use @forward", `@(?:import|use|forward)\s+(?:url\(\s*)?`+stringText),
		says(Link, "url(", `\burl\(\s*`+stringText),
		says(Link, "url(", `\burl\(\s*(?P<name>[^\s"')]+)\s*\)`),
	},
}

func readCSS(text []byte) File { return css.read(text) }

// template is a SQL template of dbt: Jinja's comments are no code, but what
// stands in a comment of SQL is still filled in.
var template = lexis{block: [][2]string{{"{#", "#}"}}}

var (
	sourceCall = lazy.New(`\bsource\(\s*["']([^"']+)["']\s*,\s*["']([^"']+)["']\s*\)`)
	refCall    = lazy.New(`\bref\(\s*["']([^"']+)["'](?:\s*,\s*["']([^"']+)["'])?`)
)

// readSQL gives the source and ref calls: of a source the name is "source.table".
func readSQL(text []byte) File {
	code, broken := template.scrub(text)
	at := linesOf(text)
	var f File
	if broken >= 0 {
		f.Broken = "a comment does not end"
		f.BrokenLine, _ = at.at(broken)
	}
	for _, m := range sourceCall.Get().FindAllSubmatchIndex(code, -1) {
		line, column := at.at(m[0])
		f.Refs = append(f.Refs, Ref{Kind: Source, Name: string(code[m[2]:m[3]]) + "." + string(code[m[4]:m[5]]), Line: line, Column: column})
	}
	for _, m := range refCall.Get().FindAllSubmatchIndex(code, -1) {
		line, column := at.at(m[0])
		r := Ref{Kind: Model, Name: string(code[m[2]:m[3]]), Line: line, Column: column}
		if m[4] >= 0 { // ref('package', 'model')
			r.Name, r.Value = string(code[m[4]:m[5]]), r.Name
		}
		f.Refs = append(f.Refs, r)
	}
	return f
}

// readContainer reads a container file: what COPY and ADD take from the project
// are Paths, the images are Imports.
func readContainer(text []byte) File {
	var f File
	line, continued := "", false
	first := 0
	for i, part := range strings.Split(string(text), "\n") {
		trimmed := strings.TrimSpace(part)
		if strings.HasPrefix(trimmed, "#") {
			continue
		}
		if !continued {
			line, first = "", i+1
		}
		rest, more := strings.CutSuffix(trimmed, `\`)
		line += rest + " "
		if continued = more; !continued {
			f.Refs = append(f.Refs, instruction(line, first)...)
		}
	}
	return f
}

func instruction(text string, line int) []Ref {
	fields := strings.Fields(text)
	if len(fields) < 2 {
		return nil
	}
	var args []string
	for _, field := range fields[1:] {
		if strings.HasPrefix(field, "--from") {
			return nil // it comes from another stage
		}
		if !strings.HasPrefix(field, "--") {
			args = append(args, field)
		}
	}
	var all []Ref
	switch strings.ToUpper(fields[0]) {
	case "FROM":
		if len(args) > 0 {
			all = append(all, Ref{Kind: Import, Name: args[0], Line: line, Column: 1})
		}
	case "COPY", "ADD":
		if list := strings.Join(args, " "); strings.HasPrefix(list, "[") {
			args = strings.FieldsFunc(list, func(c rune) bool { return strings.ContainsRune(`[]", `, c) })
		}
		for _, from := range args[:max(len(args)-1, 0)] {
			if !strings.Contains(from, "://") && !strings.Contains(from, "$") && !strings.HasPrefix(from, "<<") {
				all = append(all, Ref{Kind: Path, Name: from, Line: line, Column: 1})
			}
		}
	}
	return all
}
