package python

import (
	"bytes"
	"regexp"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// ofSettings are what pydantic gives a class of settings besides what its text says (pydantic 2, "BaseModel").
const ofSettings = "model_config model_fields model_fields_set model_extra model_computed_fields model_dump model_dump_json model_copy model_construct model_json_schema model_validate model_rebuild dict json copy parse_obj schema schema_json construct fields update_forward_refs"

var (
	// inBody finds what a class gives its objects: names at its level, functions, and what those give to the object.
	inBody = lazy.New(`(?m)^(?:    |\t)(\w+)[ \t]*[:=]|^(?:    |\t)(?:async[ \t]+)?def[ \t]+(\w+)|\bself\.(\w+)[ \t]*(?::[^=\n]+)?=`)
	// mayHaveMore finds that the objects of a class may have what its text does not say.
	mayHaveMore = lazy.New(`__getattr|__dict__|__slots__|\bsetattr\b|\bextra\s*=\s*["']allow|\bAny\b|\*\*`)
)

// ObjectOf gives the names that an object has which a module makes of a class of its own and gives a name, such as
// its settings; nil where it may have others.
func ObjectOf(code []byte, name string) lang.Vocabulary {
	is := regexp.QuoteMeta(name)
	made := regexp.MustCompile(`(?m)^`+is+`[ \t]*(?::[^=\n]+)?=[ \t]*([\w.\[]+)(\()?`).FindAllSubmatch(code, 2)
	if len(made) != 1 || len(made[0][2]) == 0 {
		return nil
	}
	class := regexp.MustCompile(`(?m)^class[ \t]+`+regexp.QuoteMeta(string(made[0][1]))+`[ \t]*(?:\(([^()]*)\))?:[^\n]*\n`).FindAllSubmatchIndex(code, 2)
	if len(class) != 1 {
		return nil
	}
	said := ""
	if m := class[0]; m[2] >= 0 {
		switch strings.TrimSpace(string(code[m[2]:m[3]])) {
		case "", "object":
		case "BaseSettings", "pydantic_settings.BaseSettings":
			said = ofSettings
		default:
			return nil
		}
	}
	body := bodyOf(code[class[0][1]:])
	if mayHaveMore.Match(body) {
		return nil
	}
	all := []byte(said)
	for _, m := range inBody.Get().FindAllSubmatch(body, -1) {
		all = append(append(all, ' '), bytes.Join(m[1:], nil)...)
	}
	return lang.VocabularyOf(all)
}

// bodyOf gives the lines at the beginning of a text that are indented, or empty.
func bodyOf(text []byte) []byte {
	for at := 0; at < len(text); {
		if c := text[at]; c != ' ' && c != '\t' && c != '\n' && c != '\r' && c != ')' && c != '#' {
			return text[:at]
		}
		at += lang.LineLength(text[at:]) + 1
	}
	return text
}
