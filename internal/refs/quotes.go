package refs

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs/lang"
)

// mostQuotes bounds how many paths of one file are kept: more are data.
const mostQuotes = 200

// quotesIn finds the texts between quotation marks that look like paths of files: names with
// "/" between them, the last with an ending, or the name of a file that holds data. What is a
// reference already is left out.
func quotesIn(text []byte, refs []Ref) (all []lang.Quoted) {
	known := map[int32]bool{}
	for i := range refs {
		known[refs[i].Span.Start], known[refs[i].ValueSpan.Start] = true, true
	}
	for at := 0; len(all) < mostQuotes; {
		i := bytes.IndexByte(text[at:], '.')
		if i < 0 {
			return all
		}
		dot := at + i
		at = dot + 1
		end := at
		for end < len(text) && ('a' <= text[end] && text[end] <= 'z' || '0' <= text[end] && text[end] <= '9') {
			end++
		}
		if end-at < 2 || end-at > 7 || end == len(text) || strings.IndexByte("\"'`", text[end]) < 0 {
			continue
		}
		start := dot
		for start > 0 && (ofPath(text[start-1]) || text[start-1] == '/') {
			start--
		}
		if start > 0 && text[start-1] == text[end] && !known[int32(start)] && isFilePath(string(text[start:end])) {
			all = append(all, lang.Quoted{Name: string(text[start:end]), Span: lang.At(start, end)})
		}
	}
	return all
}

// ofData are the endings of files that hold data.
var ofData = []string{"csv", "json", "jsonl", "parquet", "sql", "tsv", "txt", "xlsx", "xml", "yaml", "yml"}

// ofPath says whether a byte may stand in a name on the way of a path.
func ofPath(c byte) bool {
	return c == '.' || c == '-' || c == '_' || '0' <= c && c <= '9' || 'a' <= c && c <= 'z' || 'A' <= c && c <= 'Z'
}

// isFilePath says whether a text that has an ending is the path of a file as people call files.
func isFilePath(name string) bool {
	folders, last := path.Split(name)
	dot := strings.LastIndexByte(last, '.')
	ending := last[dot+1:]
	return dot > 0 && strings.Trim(ending, "0123456789") != "" && (folders != "" || slices.Contains(ofData, ending)) && !strings.HasPrefix(name, "/") && !strings.Contains(name, "//")
}
