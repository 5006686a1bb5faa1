package layout

import (
	"cmp"
	"fmt"
	"strings"
	"unicode"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// Check says why an answer cannot be taken, or nil.
func (a *Ask) Check(answer string) error {
	for _, one := range a.Answers(answer) {
		switch {
		case strings.TrimSpace(one) == "":
			return fmt.Errorf("%s is empty", a.Name)
		case strings.ContainsFunc(one, unicode.IsControl):
			return fmt.Errorf("%s holds a control character", a.Name)
		case a.Shape != "" && !a.Shape.Fits(one):
			return fmt.Errorf("%s is written %s; %q is not", a.Name, a.example(one), one)
		}
		if why := a.refused(one); why != "" {
			return fmt.Errorf("%s cannot be %q%s", a.Name, one, why)
		}
	}
	return nil
}

// example says how an answer is written, by one that is like the answer given.
func (a *Ask) example(answer string) string {
	switch {
	case a.Shape == names.Digits || a.Shape == names.Date:
		return fmt.Sprintf("as %s", map[names.Shape]string{names.Digits: "digits", names.Date: "a day, such as 2026-11-26"}[a.Shape])
	case a.Shape.Own():
		return fmt.Sprintf("as %q is", a.Default)
	}
	return fmt.Sprintf("in %s case, as %q is", a.Shape, names.To(a.Shape, cmp.Or(strings.Join(names.Words(answer), " "), "two words")))
}

// refused says why something cannot be answered, as the end of a sentence, "" where it can.
func (a *Ask) refused(answer string) string {
	word := answer
	if a.Shape != names.Pascal { // what begins with a capital is no word of a language
		word = names.To(names.Snake, answer)
	}
	for _, one := range a.Refuses {
		if why := names.Reserved(one, word); why != "" {
			return ", which is " + why
		}
		if names.Same(one, answer) {
			return ": something else is called so here"
		}
	}
	return ""
}

// likeDefault gives the shape of the language that a default is nearest to.
func likeDefault(value string) names.Shape {
	if value != "" && unicode.IsUpper([]rune(value)[0]) {
		return names.Pascal
	}
	return names.Kebab
}

// DefaultIn gives what is answered where nobody says otherwise, for a project in a folder
// of that name. Where the default is a path, the folder's name is its last part.
func (a *Ask) DefaultIn(folder string) string {
	if !a.OfFolder {
		return a.Default
	}
	name := folder
	if !a.Shape.Own() || !a.Shape.Fits(folder) {
		shape := cmp.Or(a.Shape, names.Kebab)
		if shape.Own() {
			shape = likeDefault(a.Default)
		}
		name = names.To(shape, folder)
	}
	if name == "" || !unicode.IsLetter([]rune(name)[0]) || a.Check(name) != nil {
		return a.Default
	}
	return a.Default[:strings.LastIndexByte(a.Default, '/')+1] + name
}

// Answers gives the single answers in one that may name several, separated by
// commas.
func (a *Ask) Answers(answer string) []string {
	if !a.Several {
		return []string{answer}
	}
	var all []string
	for one := range strings.SplitSeq(answer, ",") {
		all = append(all, strings.TrimSpace(one))
	}
	return all
}

func readTree(p *parser, parent *Entry, n *source.Node) error {
	parent.given["tree"] = true
	if n.Kind == source.Null {
		return nil
	}
	if n.Kind != source.Mapping {
		return n.Errorf("tree is written as names with entries below, not as %s", n.Kind)
	}
	for _, pair := range n.Pairs {
		folder, key := p.onTheWay(parent, pair.Key)
		e, err := parseKey(key, p.layout.Shapes)
		if err != nil {
			p.note(err)
			continue
		}
		p.placed(e, folder, pair.Key)
		for _, given := range pair.Value.Pairs {
			e.given[given.Key.Text] = true
		}
		before := len(p.mistakes)
		p.note(each(p, "an entry", e, pair.Value, entryKeys))
		p.note(e.sane(pair.Key))
		e.faulty = len(p.mistakes) > before
		if i := folder.index(e.Key); i >= 0 && folder.Entries[i].implied {
			folder.Entries[i].implied = false
			p.note(folder.Entries[i].take(e))
			continue
		}
		folder.Entries = append(folder.Entries, e)
	}
	return nil
}

// placed says of an entry where it stands, in the tree and in the file.
func (p *parser) placed(e, parent *Entry, key *source.Node) {
	e.Parent, e.Layout, e.File, e.Line = parent, p.layout.Name, p.shown, key.Line
	e.at = at{key}
}

// onTheWay gives the folder that a key which is a path leads to, and the last name
// of it: "src/main/java/" stands for java/ in main/ in src/, and says of those
// on the way only that they are there for what lies below.
func (p *parser) onTheWay(parent *Entry, key *source.Node) (*Entry, *source.Node) {
	if strings.Contains(key.Text, "|") {
		return parent, key
	}
	for {
		name, rest, more := strings.Cut(key.Text, "/")
		if !more || rest == "" || name == "**" || name == "" || name == ".." {
			return parent, key
		}
		first := *key
		first.Text = name + "/"
		e, err := parseKey(&first, p.layout.Shapes)
		if err != nil {
			return parent, &first // whose reading complains
		}
		if i := parent.index(e.Key); i >= 0 {
			e = parent.Entries[i]
		} else {
			p.placed(e, parent, key)
			e.Role, e.implied = "On the way to "+strings.TrimSuffix(rest, "/")+".", true
			e.given["tree"] = true
			parent.Entries = append(parent.Entries, e)
		}
		last := *key
		last.Text = rest
		parent, key = e, &last
	}
}

// parseKey reads an entry's key: spellings with "|" between them, each with a
// slash at its end for a folder; "**/" before the first holds for all of them.
func parseKey(n *source.Node, own map[string]names.Shape) (*Entry, error) {
	e := &Entry{Key: n.Text, given: map[string]bool{}}
	for i, spelling := range strings.Split(n.Text, "|") {
		spelling = strings.TrimSpace(spelling)
		name, folder := strings.CutSuffix(spelling, "/")
		name, deep := strings.CutPrefix(name, "**/")
		if i > 0 && (folder != e.Folder || deep && !e.Deep) {
			return nil, n.Errorf("%q: the spellings of one entry are all folders or all files, at one depth", n.Text)
		}
		if i == 0 {
			e.Folder, e.Deep = folder, deep
		}
		pattern, err := parsePattern(name)
		if err == nil {
			err = pattern.settle(own)
		}
		if err != nil {
			return nil, n.Errorf("%v", err)
		}
		e.Spellings = append(e.Spellings, pattern)
	}
	return e, nil
}

// sane checks what an entry says by itself.
func (e *Entry) sane(n *source.Node) error {
	if !e.Folder {
		for _, key := range []string{"tree", "others", "not-here"} {
			if e.given[key] {
				return n.Errorf("%q is a file; %q goes with a folder, whose name ends in a slash", e.Key, key)
			}
		}
	} else if e.given["shows"] || e.given["lacks"] || e.given["starter"] {
		return n.Errorf(`%q is a folder; "shows", "lacks" and "starter" go with a file`, e.Key)
	}
	if e.given["lacks"] && !e.given["shows"] {
		return n.Errorf(`%q: "lacks" goes with "shows"`, e.Key)
	}
	if e.AtMost > 0 && e.AtLeast > e.AtMost {
		return n.Errorf("%q: at-least is more than at-most", e.Key)
	}
	if e.Unit != "" {
		for i := range e.Spellings {
			if !strings.Contains(" "+strings.Join(e.Spellings[i].Captures(), " ")+" ", " "+e.Unit+" ") {
				return n.Errorf("the unit %q is not captured in the key; write <%s> in it", e.Unit, e.Unit)
			}
		}
	}
	return nil
}

func readOthers(_ *parser, e *Entry, n *source.Node) (err error) {
	e.given["others"] = true
	if e.Others, err = needOf(n, "others"); err == nil && e.Others.Wanted() {
		err = n.Errorf("others is may, should-not or must-not: nothing unnamed can be wanted")
	}
	return err
}

// expression reads a regular expression whose lines begin and end anywhere.
func expression[T any](key string, of func(T) **lazy.Regexp) func(*parser, T, *source.Node) error {
	return func(_ *parser, e T, n *source.Node) error {
		s, err := n.String(key)
		if err != nil {
			return err
		}
		if *of(e), err = lazy.Compile("(?m)" + s); err != nil {
			return n.Errorf("%s is no regular expression: %v", key, err)
		}
		return nil
	}
}

func readGit(_ *parser, e *Entry, n *source.Node) error {
	known := []string{"committed", "ignored", "either"}
	i, err := oneOf(n, "git", known)
	if e.Git = known[i]; e.Git == "either" {
		e.Git = "" // as where nothing is said; it takes back what another layout said
	}
	return err
}

func readNotHere(p *parser, e *Entry, n *source.Node) error {
	items := []*source.Node{n}
	if n.Kind == source.Sequence {
		items = n.Items
	}
	e.notHereOf = p.layout.Name
	for _, item := range items {
		var nh NotHere
		err := each(p, "not-here", &nh, item, keys[*NotHere]{
			"what":    text("what", func(nh *NotHere) *string { return &nh.What }),
			"goes-to": text("goes-to", func(nh *NotHere) *string { return &nh.GoesTo }),
			"like": func(_ *parser, nh *NotHere, n *source.Node) error {
				pattern, err := parsePattern(n.Text)
				if err != nil || n.Kind != source.Scalar {
					return n.Errorf("like is a name pattern: %v", err)
				}
				nh.Like = &pattern
				return nil
			},
			"shows": expression("shows", func(nh *NotHere) **lazy.Regexp { return &nh.Shows }),
		})
		if err != nil {
			return err
		}
		if nh.What == "" || nh.GoesTo == "" {
			return item.Errorf(`not-here says "what" and where it "goes-to"`)
		}
		if nh.Shows != nil && nh.Like == nil {
			return item.Errorf(`"shows" goes with "like"`)
		}
		e.NotHere = append(e.NotHere, nh)
	}
	return nil
}

// CheckAnswer says why an answer to the question of that name cannot be taken,
// or nil.
func (l *Layout) CheckAnswer(name, answer string) error {
	ask := l.Ask(name)
	if ask != nil {
		return ask.Check(answer)
	}
	var known []string
	for _, a := range l.Asks {
		known = append(known, a.Name)
	}
	if meant := names.Closest(name, known); meant != "" {
		return fmt.Errorf("%s does not ask for %q; did you mean %q?", l.Name, name, meant)
	}
	if len(known) == 0 {
		return fmt.Errorf("%s asks for nothing, so %q is no answer", l.Name, name)
	}
	return fmt.Errorf("%s does not ask for %q; it asks for %s", l.Name, name, strings.Join(known, ", "))
}
