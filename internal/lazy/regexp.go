// Package lazy holds regular expressions that are compiled when they are first
// used: a call that needs few of them pays for few.
package lazy

import (
	"errors"
	"fmt"
	"regexp"
	"regexp/syntax"
	"strings"
	"sync"
	"sync/atomic"
)

// A Regexp is a regular expression that is compiled on first use. It may be used
// by several goroutines.
type Regexp struct {
	text string
	once sync.Once
	re   *regexp.Regexp

	used    atomic.Int64 // bytes gone through
	knowing sync.Once
	words   [][]byte // see rulesOut
}

// New makes a Regexp of a text that is known to be right; what is wrong with it
// shows as a panic on first use.
func New(text string) *Regexp { return &Regexp{text: text} }

// MostSteps is how many steps an expression of a stranger has: matching takes so many
// times the length of a text at worst, and a counted repeat multiplies them.
const MostSteps = 500

// Check says what is wrong with an expression that a stranger wrote.
func Check(text string) error {
	parsed, err := syntax.Parse(text, syntax.Perl)
	if err != nil {
		return errors.New(strings.TrimPrefix(err.Error(), "error parsing regexp: "))
	}
	// Without a counted repeat there are fewer steps than characters.
	if len(text) < MostSteps/2 && !strings.Contains(text, "{") {
		return nil
	}
	steps, err := syntax.Compile(parsed.Simplify())
	if err != nil {
		return err
	}
	if n := len(steps.Inst); n > MostSteps {
		return fmt.Errorf("it counts too far: %d steps, of %d at most", n, MostSteps)
	}
	return nil
}

// Compile makes a Regexp of a text that may be wrong.
func Compile(text string) (*Regexp, error) {
	if err := Check(text); err != nil {
		return nil, err
	}
	re, err := regexp.Compile(text)
	if err != nil {
		return nil, err
	}
	r := &Regexp{text: text, re: re}
	r.once.Do(func() {})
	return r, nil
}

// Get gives the compiled expression.
func (r *Regexp) Get() *regexp.Regexp {
	r.once.Do(func() { r.re = regexp.MustCompile(r.text) })
	return r.re
}

// String gives the text.
func (r *Regexp) String() string { return r.text }

// Match says whether the text fits.
func (r *Regexp) Match(text []byte) bool { return !r.rulesOut(text) && r.Get().Match(text) }

// MatchString says whether the text fits.
func (r *Regexp) MatchString(text string) bool { return r.Get().MatchString(text) }

// FindAll gives the places of all matches and of their groups, as
// regexp.Regexp.FindAllSubmatchIndex does.
func (r *Regexp) FindAll(text []byte) [][]int {
	if r.rulesOut(text) {
		return nil
	}
	return r.Get().FindAllSubmatchIndex(text, -1)
}
