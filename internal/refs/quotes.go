package refs

import (
	"bytes"
	"strings"

	"dicaxon/internal/refs/lang"
)

// mostQuotes bounds how many paths of one file are kept: more are data.
const mostQuotes = 200

// quotesIn finds the texts between quotation marks that look like paths of files: names with
// "/" between them, the last with an ending. What is a reference already is left out.
func quotesIn(text []byte, refs []Ref) (all []lang.Quoted) {
	known := map[int32]bool{}
	for i := range refs {
		known[refs[i].Span.Start], known[refs[i].ValueSpan.Start] = true, true
	}
	for at := 0; len(all) < mostQuotes; {
		i := bytes.IndexByte(text[at:], '/')
		if i < 0 {
			return all
		}
		start, end := at+i, at+i+1
		for start > at && ofPath(text[start-1]) {
			start--
		}
		for end < len(text) && (ofPath(text[end]) || text[end] == '/') {
			end++
		}
		at = end
		if start == 0 || end == len(text) || text[start-1] != text[end] || strings.IndexByte("\"'`", text[end]) < 0 || known[int32(start)] {
			continue
		}
		if name := string(text[start:end]); isFilePath(name) {
			all = append(all, lang.Quoted{Name: name, Span: lang.At(start, end)})
		}
	}
	return all
}

// ofPath says whether a byte may stand in a name on the way of a path.
func ofPath(c byte) bool {
	return c == '.' || c == '-' || c == '_' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}

// isFilePath says whether a text is the path of a file with an ending, as people call files.
func isFilePath(name string) bool {
	last := name[strings.LastIndexByte(name, '/')+1:]
	dot := strings.LastIndexByte(last, '.')
	ending := last[dot+1:]
	return dot > 0 && len(ending) > 1 && len(ending) < 8 && strings.Trim(ending, "abcdefghijklmnopqrstuvwxyz0123456789") == "" && strings.Trim(ending, "0123456789") != "" &&
		!strings.HasPrefix(name, "/") && !strings.Contains(name, "//")
}
