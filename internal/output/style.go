// Package output writes what the core found out, for people and for programs.
package output

import (
	"fmt"
	"io"
	"strings"

	"github.com/fatih/color"
	"github.com/rivo/uniseg"

	"dicaxon/internal/finding"
	"dicaxon/internal/names"
)

// A Page is where text for people goes, with what the reader's screen can do.
type Page struct {
	Out    io.Writer
	Width  int    // in columns
	Colour bool   // the screen shows colours
	ASCII  bool   // the screen shows nothing but ASCII
	Sign   string // of the printer below, by which it knows our colours
}

// A tone is a way to set off text.
type tone int

const (
	plain tone = iota
	strong
	faint
	bad
	odd
	fine
	location
)

var tones = map[tone][]color.Attribute{
	strong:   {color.Bold},
	faint:    {color.Faint},
	bad:      {color.FgRed, color.Bold},
	odd:      {color.FgYellow, color.Bold},
	fine:     {color.FgGreen},
	location: {color.FgCyan},
}

func (p *Page) in(t tone, text string) string {
	if !p.Colour || t == plain || text == "" {
		return text
	}
	c := color.New(tones[t]...)
	c.EnableColor() // Page has decided; the library's own guess does not count
	// A text may hold the beginning of a colour; it gets no sign.
	text = strings.ReplaceAll(text, "\x1b", `\u001b`)
	return strings.ReplaceAll(c.Sprint(text), "\x1b", "\x1b"+p.Sign)
}

func toneOf(l finding.Level) tone { return [...]tone{bad, odd, faint}[l] }

// printf writes a line, or a part of one: no text that is filled in begins another.
func (p *Page) printf(format string, args ...any) {
	for i, arg := range args {
		if text, ok := arg.(string); ok {
			args[i] = strings.ReplaceAll(text, "\n", `\u000a`)
		}
	}
	fmt.Fprintf(p.Out, format, args...)
}

func (p *Page) arrow() string {
	if p.ASCII {
		return "->"
	}
	return "→"
}

// wrap writes text in a column that begins at indent, broken between words.
// The first line is taken to be indented already.
func (p *Page) wrap(indent int, t tone, text string) {
	for i, line := range broken(text, max(p.Width-indent, 20)) {
		if i > 0 {
			p.printf("%s", strings.Repeat(" ", indent))
		}
		p.printf("%s\n", p.in(t, line))
	}
}

// broken breaks text between words into lines of a width.
func broken(text string, width int) []string {
	var lines []string
	line, used := "", 0
	for _, word := range strings.Fields(text) {
		w := uniseg.StringWidth(word)
		if used > 0 && used+1+w > width {
			lines = append(lines, line)
			line, used = "", 0
		}
		if used > 0 {
			line, used = line+" ", used+1
		}
		line, used = line+word, used+w
	}
	return append(lines, line)
}

// pair writes a label and, in a column of its own, a text.
func (p *Page) pair(indent, column int, label string, t tone, text string) {
	p.set(plain, indent, column, label, t, text)
}

// headed is pair with a label that stands out.
func (p *Page) headed(column int, label string, t tone, text string) {
	p.set(strong, 0, column, label, t, text)
}

func (p *Page) set(labelTone tone, indent, column int, label string, t tone, text string) {
	p.printf("%s%s", strings.Repeat(" ", indent), p.in(labelTone, label))
	gap := column - indent - uniseg.StringWidth(label)
	if gap < 1 {
		p.printf("\n")
		gap = column
	}
	p.printf("%s", strings.Repeat(" ", gap))
	p.wrap(column, t, text)
}

func count(n int, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return grouped(n) + " " + names.Plural(one)
}

// grouped writes a number with its thousands apart.
func grouped(n int) string {
	s := fmt.Sprint(n)
	for i := len(s) - 3; i > 0; i -= 3 {
		s = s[:i] + "," + s[i:]
	}
	return s
}
