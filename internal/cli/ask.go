package cli

import (
	"bufio"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"strconv"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/output"
	"dicaxon/internal/workspace"
)

// An asker puts questions on standard error and reads the answers, a line
// each: that works on every terminal and with every screen reader.
type asker struct {
	lines *bufio.Scanner
	to    io.Writer
	page  output.Page
	live  bool // there is somebody to ask
}

func (p *program) asker(page *output.Page, live bool) *asker {
	t := &asker{lines: bufio.NewScanner(p.in), to: p.err, page: *page, live: live}
	t.page.Out, t.page.Sign = p.err, p.err.Sign
	return t
}

// line asks one question until the answer can be taken. An empty answer means
// the default; without a default the question must be answered.
func (t *asker) line(question, otherwise string, check func(string) error) (string, error) {
	if !t.live {
		return "", callf("%s is not said, and there is nobody to ask; `dicaxon scaffold LAYOUT DIR`", strings.ToLower(question))
	}
	for {
		fmt.Fprint(t.to, question)
		if otherwise != "" {
			fmt.Fprintf(t.to, " [%s]", otherwise)
		}
		fmt.Fprint(t.to, ": ")
		if !t.lines.Scan() {
			fmt.Fprintln(t.to)
			return "", callf("no answer; nothing was written")
		}
		answer := strings.TrimSpace(t.lines.Text())
		if answer == "" {
			answer = otherwise
		}
		err := errors.New("an answer is needed")
		if answer != "" {
			if err = nil; check != nil {
				err = check(answer)
			}
		}
		if err == nil {
			return answer, nil
		}
		fmt.Fprintf(t.to, "  %v\n", err)
	}
}

// layout asks for the layout: first the list, then a number or a name.
func (t *asker) layout() (string, error) {
	shown := catalogue.Catalogue{}.Index().Followed()
	if t.live {
		t.page.Numbered(shown)
	}
	answer, err := t.line("Layout, by number or name", "", func(answer string) error {
		if i, err := strconv.Atoi(answer); err == nil {
			if i < 1 || i > len(shown) {
				return fmt.Errorf("the numbers go from 1 to %d", len(shown))
			}
			return nil
		}
		if _, err := open(answer); err != nil {
			return errors.New(workspace.NoLayout(answer))
		}
		return nil
	})
	if i, notNumber := strconv.Atoi(answer); err == nil && notNumber == nil {
		answer = shown[i-1].Name
	}
	return answer, err
}

// answers asks what the layout asks for and was not given.
func (t *asker) answers(l *layout.Layout, dir string, given map[string]string) error {
	for name, answer := range given {
		if err := l.CheckAnswer(name, answer); err != nil {
			return asCall(err)
		}
	}
	folder := dir
	if whole, err := filepath.Abs(dir); err == nil {
		folder = filepath.Base(whole)
	}
	for i := range l.Asks {
		ask := &l.Asks[i]
		if _, known := given[ask.Name]; known {
			continue
		}
		given[ask.Name] = ask.DefaultIn(folder)
		if !t.live {
			continue
		}
		answer, err := t.line(ask.Question, given[ask.Name], ask.Check)
		if err != nil {
			return err
		}
		given[ask.Name] = answer
	}
	return nil
}
