package lazy

import (
	"regexp"
	"slices"
	"strings"
	"testing"
)

// TestNeeded holds which words every match of an expression has one of.
func TestNeeded(t *testing.T) {
	for text, want := range map[string][]string{
		`tide`: {"tide"}, `(?i)tide`: nil, `t`: nil, `(tide)+\(`: {"tide"}, `(?:tide)*`: nil, `(?:berth|crew)s?\(["'](\w+)`: {"berth", "crew"},
		`a?render_to(?P<name>x+)`: {"render_to"}, `(?m)^\s*(?:GET|x)`: nil, `(?:pier){2,3}`: {"pier"}, `\d+`: nil, `$`: nil, `(?:ab|cd|ef|gh|ij|kl|mn|op|qr)`: nil,
	} {
		if got := known(text); !slices.Equal(got, want) {
			t.Errorf("%s needs %q, not %q", text, got, want)
		}
	}
}

// known gives the words that an expression looks for once it is used much.
func known(text string) []string {
	r := New(text)
	r.used.Store(worthKnowing)
	r.rulesOut(nil)
	var all []string
	for _, word := range r.words {
		all = append(all, string(word))
	}
	return all
}

// FuzzNeeded holds that an expression finds the same whether or not it knows what its
// matches need.
func FuzzNeeded(f *testing.F) {
	for _, text := range []string{`render\(["'](\w+)`, `(?:berth|crew)s?`, `(?i)tide|pier`, `(?:tides?)*berth$`, `(ab|a|abc)\bx?`, `[ab]b+c{2}`, `\xffb|é`} {
		f.Add(text, "render('tides') berths")
		f.Add(text, "abcc crew \xffb")
	}
	f.Fuzz(func(t *testing.T, text, in string) {
		plain, err := regexp.Compile(text)
		if err != nil || Check(text) != nil {
			return
		}
		r := New(text)
		r.used.Store(worthKnowing)
		for _, one := range []string{in, strings.ToUpper(in), in + text} {
			want := plain.FindAllStringSubmatchIndex(one, -1)
			if got := r.FindAll([]byte(one)); !slices.EqualFunc(got, want, slices.Equal) {
				t.Errorf("%q finds %v in %q, not %v", text, got, one, want)
			}
			if r.Match([]byte(one)) != plain.MatchString(one) {
				t.Errorf("%q fits %q: not so", text, one)
			}
		}
	})
}
