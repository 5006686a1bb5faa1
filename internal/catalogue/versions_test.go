package catalogue_test

import (
	"io/fs"
	"path"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/versions"
)

var (
	asked  = regexp.MustCompile(`[\[{] ?version "([^"]+)"`)
	pinned = regexp.MustCompile(`"[\^~]\d|==\d|<version>\d+\.\d+\.\d+<|Version="\d`)
)

// TestStartersAskTheTable holds the versions in starters, the table of them and
// what layouts say they describe against each other.
func TestStartersAskTheTable(t *testing.T) {
	used := map[string]bool{}
	for _, name := range (catalogue.Catalogue{}).Names() {
		folder, _, err := catalogue.Catalogue{}.Open(name)
		if err != nil {
			t.Fatal(err)
		}
		l, err := catalogue.Catalogue{}.Layout(name)
		if err != nil {
			t.Fatal(err)
		}
		files, _ := fs.Glob(folder, layout.StarterFolder+"/*")
		for _, file := range files {
			text, _ := fs.ReadFile(folder, file)
			if at := pinned.Find(text); at != nil {
				t.Errorf("%s: %s pins %s itself; the table of versions has a place for it", name, path.Base(file), at)
			}
			for _, m := range asked.FindAllStringSubmatch(string(text), -1) {
				used[m[1]] = true
				version, err := versions.Of(m[1])
				if err != nil {
					t.Errorf("%s: %s: %v", name, path.Base(file), err)
				} else if !describes(l.Describes, m[1], version) {
					t.Errorf("%s describes %q, and %s asks for %s %s", name, l.Describes, path.Base(file), m[1], version)
				}
			}
		}
	}
	for _, name := range versions.Names() {
		if !used[name] {
			t.Errorf("no starter asks for %s", name)
		}
	}
}

// describes says whether a version lies within what a layout says it describes
// of that name: "React 19", "Nest 10 to 12", "Java 17 and later", or nothing at all.
func describes(said, name, version string) bool {
	name, _, _ = strings.Cut(path.Base(name), "@")
	span := regexp.MustCompile(`(?i)\b` + regexp.QuoteMeta(name) + `(?:\.js)? (\d+)(?:\.\d+)?(?: (and later|to|and)(?: (\d+))?)?`)
	m := span.FindStringSubmatch(said)
	if m == nil {
		return true
	}
	major, _, _ := strings.Cut(version, ".")
	number := func(s string) int { n, _ := strconv.Atoi(s); return n }
	from, to := number(m[1]), number(m[1])
	if m[3] != "" {
		to = number(m[3])
	}
	return number(major) >= from && (number(major) <= to || m[2] == "and later")
}

func TestDescribesReadsSpans(t *testing.T) {
	for _, c := range []struct {
		said, name, version string
		want                bool
	}{
		{"React 19, Vite 8", "npm/react", "19.2", true},
		{"React 18", "npm/react", "19.2", false},
		{"Astro 5 to 7", "npm/astro", "6.1", true},
		{"Astro 5 to 7", "npm/astro", "8.0", false},
		{"Java 17 and later", "tool/java", "21", true},
		{"Nuxt 3 and 4", "npm/nuxt", "4.5", true},
		{"Nuxt 3 and 4", "npm/nuxt", "5.0", false},
		{"Angular 20", "npm/rxjs", "7.8", true},
	} {
		if got := describes(c.said, c.name, c.version); got != c.want {
			t.Errorf("%q, %s %s: %v", c.said, c.name, c.version, got)
		}
	}
}
