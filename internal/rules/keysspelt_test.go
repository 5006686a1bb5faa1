package rules

import (
	"path"
	"strings"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/names"
)

// settingsAt writes settings with one key below others, in the form of a file's name.
func settingsAt(at, below, key string) string {
	var above []string
	if below != "" {
		above = strings.Split(strings.ReplaceAll(below, "*", "one"), ".")
	}
	switch path.Ext(at) {
	case ".json":
		text := `{"` + key + `": {"a": 1}}`
		for i := len(above) - 1; i >= 0; i-- {
			text = `{"` + above[i] + `": ` + text + `}`
		}
		return text
	case ".toml":
		if below == "" {
			return "[" + key + "]\na = 1\n"
		}
		return "[" + strings.Join(above, ".") + "]\n" + key + " = 1\n"
	case ".ini":
		if below == "" {
			return "[" + key + "]\na = 1\n"
		}
		return "[" + below + "]\n" + key + " = 1\n"
	}
	text := ""
	for i, name := range append(above, key) {
		text += strings.Repeat("  ", i) + name + ":\n"
	}
	return text + strings.Repeat("  ", len(above)+1) + "a: 1\n"
}

// turnedIn gives the first of some keys that is long enough, and what somebody types in its place.
func turnedIn(known []string) (key, typed string) {
	for _, key := range known {
		for i := len(key) / 2; i+1 < len(key) && len(key) > 4; i++ {
			typed = key[:i] + string(key[i+1]) + string(key[i]) + key[i+2:]
			if names.Mistyped(typed, key) {
				return key, typed
			}
		}
	}
	return known[0], known[0]
}

// TestKeysOfSettings mistypes one key of each list that holds in any repository.
func TestKeysOfSettings(t *testing.T) {
	common, err := catalogue.Catalogue{}.Commonplace()
	if err != nil {
		t.Fatal(err)
	}
	lists := 0
	for i := range common.Rules {
		r := &common.Rules[i]
		if r.Rule != keysSpelt.Name {
			continue
		}
		lists++
		option := func(name string) []string { return r.Options[name] }
		known := option("known")
		at := strings.NewReplacer("**/", "", "y*ml", "yml", ".*.json", ".one.json", "*", "").Replace(option("files")[0])
		below := strings.Join(option("below"), "")
		key, typed := turnedIn(known)
		told := func(key string) bool {
			for _, f := range foundIn(t, "- {rule: called, files: none.txt, as: none.md}", files{at: settingsAt(at, below, key)}) {
				if f.Path == at && strings.Contains(f.Message, typed) && strings.Contains(f.Message, "did it mean") {
					return true
				}
			}
			return false
		}
		if !told(typed) {
			t.Errorf("%s: %s in %s is not told", r.Called(), typed, at)
		}
		if told(key) {
			t.Errorf("%s: %s in %s is told", r.Called(), key, at)
		}
		for _, one := range known {
			if strings.TrimSpace(one) != one || one == "" {
				t.Errorf("%s: %q is no key", r.Called(), one)
			}
		}
	}
	if lists < 30 {
		t.Errorf("%d lists", lists)
	}
}
