package names

import "strings"

// Words that follow no rule, singular to plural, and words that are both.
var (
	irregular = map[string]string{
		"person": "people", "child": "children", "man": "men", "woman": "women", "foot": "feet", "tooth": "teeth",
		"goose": "geese", "mouse": "mice", "datum": "data", "medium": "media", "criterion": "criteria", "index": "indexes",
		"analysis": "analyses", "basis": "bases", "crisis": "crises", "thesis": "theses", "axis": "axes", "quiz": "quizzes",
		"life": "lives", "knife": "knives", "leaf": "leaves", "half": "halves", "shelf": "shelves", "self": "selves",
		"hero": "heroes", "potato": "potatoes", "echo": "echoes", "status": "statuses", "alias": "aliases", "bus": "buses",
		"virus": "viruses", "campus": "campuses", "bonus": "bonuses", "lens": "lenses", "gas": "gases", "canvas": "canvases", "atlas": "atlases",
	}
	invariant = map[string]bool{
		"series": true, "species": true, "news": true, "sheep": true, "fish": true, "staff": true, "equipment": true,
		"information": true, "metadata": true, "software": true, "hardware": true, "means": true, "settings": true, "static": true,
	}
	regular = func() map[string]string {
		back := map[string]string{}
		for one, many := range irregular {
			back[many] = one
		}
		return back
	}()
)

// Plural gives the plural of the last word of an English name in small
// letters; a plural stays what it is.
func Plural(name string) string {
	start := lastWord(name)
	word := name[start:]
	switch many, known := irregular[word]; {
	case known:
		return name[:start] + many
	case word == "" || invariant[word] || regular[word] != "":
		return name
	case Singular(word) != word:
		return name
	case hasEnding(word, "s", "x", "z", "ch", "sh"):
		return name + "es"
	case strings.HasSuffix(word, "y") && !strings.ContainsRune("aeiou", rune(beforeLast(word))):
		return strings.TrimSuffix(name, "y") + "ies"
	}
	return name + "s"
}

// Singular gives the singular of the last word of an English name in small
// letters; a singular stays what it is.
func Singular(name string) string {
	start := lastWord(name)
	word := name[start:]
	switch one, known := regular[word]; {
	case known:
		return name[:start] + one
	case invariant[word] || irregular[word] != "" || len(word) < 3:
		return name
	case hasEnding(word, "ss", "us", "is"):
		return name
	case strings.HasSuffix(word, "ies") && len(word) > 4:
		return strings.TrimSuffix(name, "ies") + "y"
	case hasEnding(word, "sses", "xes", "zes", "ches", "shes"):
		return strings.TrimSuffix(name, "es")
	case strings.HasSuffix(word, "s"):
		return strings.TrimSuffix(name, "s")
	}
	return name
}

// lastWord gives where the last word of a name begins.
func lastWord(name string) int { return strings.LastIndexAny(name, "_- ") + 1 }

func hasEnding(word string, endings ...string) bool {
	for _, e := range endings {
		if strings.HasSuffix(word, e) {
			return true
		}
	}
	return false
}

func beforeLast(word string) byte {
	if len(word) < 2 {
		return 'a'
	}
	return word[len(word)-2]
}

// SameInNumber says whether two names are the same but for singular and plural, and for how their
// words are joined.
func SameInNumber(a, b string) bool { return Same(Singular(a), Singular(b)) }
