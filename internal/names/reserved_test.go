package names

import (
	"strings"
	"testing"
)

func TestReserved(t *testing.T) {
	for list, want := range map[string]string{"keywords/python": "a keyword of Python", "keywords/rust": "a keyword of Rust", "keywords/csharp": ""} {
		if got := Reserved(list, "async"); got != want {
			t.Errorf("async in %s: %q, not %q", list, got, want)
		}
	}
	if got := Reserved("modules/python", "json"); got != "a module that comes with Python" {
		t.Error(got)
	}
	for list, words := range reserved() {
		_, language, _ := strings.Cut(list, "/")
		if languages[language] == "" || len(words) == 0 {
			t.Errorf("%s: of no language that has a name", list)
		}
	}
	if IsReserved("keywords/none") {
		t.Error("a list that is not there")
	}
}
