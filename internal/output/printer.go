package output

import (
	"bytes"
	"crypto/rand"
	"encoding/hex"
	"fmt"
	"io"
	"unicode"
	"unicode/utf8"
)

// A Printer is the one way out, for every format: whatever a name, a layout or an error
// holds, no control character, no mark that turns the direction of writing and no byte
// that is no text gets through. Such a character is written as \uXXXX, which inside a text
// of JSON is the character itself. Colours get through where they carry the printer's
// sign, which no file can know.
type Printer struct {
	ASCII bool // write nothing but ASCII
	Sign  string

	to   io.Writer
	rest []byte // of the last write: the beginning of a character
	line []byte
}

// NewPrinter gives a printer onto a writer.
func NewPrinter(to io.Writer) *Printer {
	var sign [8]byte
	_, _ = rand.Read(sign[:]) // it never fails
	return &Printer{Sign: hex.EncodeToString(sign[:]), to: to}
}

// Flush sends on what the writer below holds back.
func (p *Printer) Flush() error {
	if held, ok := p.to.(interface{ Flush() error }); ok {
		return held.Flush()
	}
	return nil
}

// Write writes text as far as its characters are whole; the rest comes with the next.
func (p *Printer) Write(text []byte) (int, error) {
	all := text
	if len(p.rest) > 0 {
		all = append(p.rest, text...)
		p.rest = nil
	}
	p.line = p.line[:0]
	for len(all) > 0 {
		n := bytes.IndexFunc(all, func(r rune) bool { return (r < ' ' || r > '~') && r != '\n' })
		if n < 0 {
			n = len(all)
		}
		p.line, all = append(p.line, all[:n]...), all[n:]
		if len(all) == 0 {
			break
		}
		if !utf8.FullRune(all) {
			p.rest = bytes.Clone(all)
			break
		}
		all = all[p.special(all):]
	}
	if _, err := p.to.Write(p.line); err != nil {
		return 0, err
	}
	return len(text), nil
}

// special writes a character that is not plain ASCII, or a colour, and gives its length.
func (p *Printer) special(all []byte) int {
	if n := p.colour(all); n > 0 {
		return n
	}
	r, size := utf8.DecodeRune(all)
	instead, drawn := inASCII[r]
	switch {
	case r == utf8.RuneError && size == 1:
		p.line = fmt.Appendf(p.line, `\u%04x`, utf8.RuneError)
	case !unicode.IsPrint(r) || p.ASCII && !drawn:
		p.line = escapedRune(p.line, r)
	case p.ASCII:
		p.line = append(p.line, instead...)
	default:
		p.line = append(p.line, all[:size]...)
	}
	return size
}

// escapedRune writes a character as JSON would (RFC 8259, section 7): one beyond the
// first 65,536 as a pair.
func escapedRune(to []byte, r rune) []byte {
	if r < 0x10000 {
		return fmt.Appendf(to, `\u%04x`, r)
	}
	return fmt.Appendf(to, `\u%04x\u%04x`, 0xd800+(r-0x10000)>>10, 0xdc00+(r-0x10000)&0x3ff)
}

// colour lets one of our own colours through (ECMA-48, SGR), and gives its length with
// the sign; 0 where there is none.
func (p *Printer) colour(all []byte) int {
	begin := "\x1b" + p.Sign + "["
	if p.Sign == "" || !bytes.HasPrefix(all, []byte(begin)) {
		return 0
	}
	for i := len(begin); i < len(all); i++ {
		if c := all[i]; c == 'm' {
			p.line = append(append(p.line, "\x1b["...), all[len(begin):i+1]...)
			return i + 1
		} else if c != ';' && (c < '0' || c > '9') {
			break
		}
	}
	return 0
}

// inASCII are signs of our own sentences and drawings as a plain screen shows them.
var inASCII = map[rune]string{
	'…': "...", '–': "-", '—': "-", '→': "->", '“': `"`, '”': `"`, '‘': "'", '’': "'", '×': "x", '≤': "<=", '≥': ">=", '·': "-", '•': "*",
	'├': "|", '└': "`", '─': "-", '│': "|",
}
