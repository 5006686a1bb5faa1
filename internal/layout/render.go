package layout

import (
	"bytes"
	"errors"
	"fmt"
	"maps"
	"strings"
	"sync"
	"text/template"
	nodes "text/template/parse"
)

// What a starter may cost: its text, what comes of it, and how often its loops and
// templates go round.
const (
	mostStarter  = 256 << 10
	mostRendered = 4 << 20
	mostRounds   = 100_000
)

// tick is what stands at the beginning of every loop and template of a starter.
const tick = "dicaxon_tick"

// Render fills in a starter, or one of the first steps. A key that is no answer is an
// error; so is a starter that makes too much of itself.
func Render(name, text string, marks [2]string, data map[string]any) ([]byte, error) {
	if len(text) > mostStarter {
		return nil, fmt.Errorf("%s is too long for a starter: %d bytes, of %d at most", name, len(text), mostStarter)
	}
	rounds := 0
	functions := maps.Clone(StarterFunctions)
	maps.Copy(functions, bounded)
	functions[tick] = func() (string, error) {
		if rounds++; rounds > mostRounds {
			return "", fmt.Errorf("its loops go round more than %d times", mostRounds)
		}
		return "", nil
	}
	t, err := template.New(name).Delims(marks[0], marks[1]).Option("missingkey=error").Funcs(functions).Parse(text)
	if err != nil {
		return nil, errors.New(strings.TrimPrefix(err.Error(), "template: "))
	}
	for _, one := range t.Templates() {
		if one.Tree != nil {
			count(one.Tree.Root, one.Name() != name)
		}
	}
	var b limited
	if err := t.Execute(&b, data); err != nil {
		return nil, errors.New(strings.TrimPrefix(err.Error(), "template: "))
	}
	return b.Bytes(), nil
}

// count puts a tick at the beginning of every loop below a list, and of the list itself.
func count(list *nodes.ListNode, itself bool) {
	if list == nil {
		return
	}
	for _, n := range list.Nodes {
		switch n := n.(type) {
		case *nodes.RangeNode:
			count(n.List, true)
			count(n.ElseList, false)
		case *nodes.IfNode:
			count(n.List, false)
			count(n.ElseList, false)
		case *nodes.WithNode:
			count(n.List, false)
			count(n.ElseList, false)
		}
	}
	if itself {
		list.Nodes = append([]nodes.Node{ticking()}, list.Nodes...)
	}
}

// ticking is the call of tick, as a starter would have it. It is only read.
var ticking = sync.OnceValue(func() nodes.Node {
	t := template.Must(template.New("").Funcs(template.FuncMap{tick: func() string { return "" }}).Parse("{{" + tick + "}}"))
	return t.Root.Nodes[0]
})

// A limited buffer takes no more than a starter may give.
type limited struct{ bytes.Buffer }

func (l *limited) Write(text []byte) (int, error) {
	if l.Len()+len(text) > mostRendered {
		return 0, fmt.Errorf("it gives more than %d bytes", mostRendered)
	}
	return l.Buffer.Write(text)
}

// bounded are the functions that can make a text longer; each takes and gives no more
// than a starter may.
var bounded = template.FuncMap{
	"print":   func(args ...any) (string, error) { return short(fmt.Sprint, args) },
	"println": func(args ...any) (string, error) { return short(fmt.Sprintln, args) },
	"printf": func(form string, args ...any) (string, error) {
		return short(func(all ...any) string { return fmt.Sprintf(form, all...) }, args)
	},
	"html":     func(args ...any) (string, error) { return short(template.HTMLEscaper, args) },
	"js":       func(args ...any) (string, error) { return short(template.JSEscaper, args) },
	"urlquery": func(args ...any) (string, error) { return short(template.URLQueryEscaper, args) },
	"join": func(all []string, between string) (string, error) {
		return short(func(...any) string { return strings.Join(all, between) }, []any{between, all})
	},
}

// short calls a function unless what it is given is too long already; what it gives is
// longer by a factor at most, and is asked itself when it is given on.
func short(f func(...any) string, args []any) (string, error) {
	n := 0
	for _, a := range args {
		switch a := a.(type) {
		case string:
			n += len(a)
		case []string:
			for _, s := range a {
				n += len(s)
			}
		}
	}
	if n > mostRendered/16 {
		return "", fmt.Errorf("a text of it is longer than %d bytes", mostRendered/16)
	}
	return f(args...), nil
}
