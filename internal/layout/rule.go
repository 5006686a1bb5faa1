package layout

import (
	"slices"

	"dicaxon/internal/source"
)

// A Rule is one agreement beyond names that a layout asks for. What its options
// mean is up to the rule; the package rules knows them all.
type Rule struct {
	Rule    string              // which rule it is
	Name    string              `json:",omitempty"` // what this layout calls it; Rule, if left out
	Level   string              `json:",omitempty"` // error, warning, note, off, or "" for that of its kind
	Says    string              `json:",omitempty"` // the layout's own words for its findings
	When    *Condition          `json:",omitempty"` // in which projects it holds; nil for all
	Options map[string][]string `json:",omitempty"`
	Layout  string
	File    string
	Line    int
	// Checked says that the options were checked when the layout was packed.
	Checked bool `json:"-"`
	node    *source.Node
}

// Called gives the name by which a layout that builds on this one changes the
// rule.
func (r *Rule) Called() string {
	if r.Name != "" {
		return r.Name
	}
	return r.Rule
}

// Errorf makes a complaint about an option of the rule, or about the whole of it
// where it has no such option.
func (r *Rule) Errorf(option, format string, args ...any) error {
	at := r.node
	if at == nil {
		at = &source.Node{File: &source.File{Name: r.File}, Line: r.Line}
	}
	for _, pair := range at.Pairs {
		if pair.Key.Text == option {
			at = pair.Value
			if at.Kind == source.Null {
				at = pair.Key
			}
		}
	}
	return at.Errorf(format, args...)
}

// RuleLevels are the words for how grave the findings of a rule are.
var RuleLevels = []string{"error", "warning", "note", "off"}

func readRules(p *parser, l *Layout, n *source.Node) error {
	if n.Kind != source.Sequence {
		return n.Errorf("rules is a list, not %s", n.Kind)
	}
	for _, item := range n.Items {
		r, err := readRule(p, l, item)
		if err == nil {
			if i := ruleIn(l.Rules, r.Called()); i >= 0 {
				err = item.Errorf("the layout has two rules called %q, the other on line %d; give one a name", r.Called(), l.Rules[i].Line)
			}
		}
		if err != nil {
			p.note(err)
			continue
		}
		l.Rules = append(l.Rules, r)
	}
	return nil
}

func readRule(p *parser, l *Layout, item *source.Node) (Rule, error) {
	r := Rule{Layout: l.Name, File: p.shown, Line: item.Line, node: item, Options: map[string][]string{}}
	if item.Kind != source.Mapping {
		return r, item.Errorf("a rule is written as keys with values, not as %s", item.Kind)
	}
	for _, pair := range item.Pairs {
		var err error
		switch key := pair.Key.Text; key {
		case "rule":
			r.Rule, err = pair.Value.String(key)
		case "name":
			r.Name, err = pair.Value.String(key)
		case "says":
			r.Says, err = pair.Value.String(key)
		case "when":
			r.When, err = readCondition(p, pair.Value)
		case "level":
			var i int
			if i, err = oneOf(pair.Value, key, RuleLevels); err == nil {
				r.Level = RuleLevels[i]
			}
		default:
			r.Options[key], err = pair.Value.Strings(key)
		}
		if err != nil {
			return r, err
		}
	}
	if r.Rule == "" {
		return r, item.Errorf(`a rule says which it is, as "rule"`)
	}
	return r, nil
}

func ruleIn(rules []Rule, called string) int {
	return slices.IndexFunc(rules, func(r Rule) bool { return r.Called() == called })
}

// overRules takes over the rules of a layout that this one builds on: a rule
// called the same is changed, option by option, any other comes before.
func overRules(own, inherited []Rule) []Rule {
	var all []Rule
	for _, r := range inherited {
		i := ruleIn(own, r.Called())
		if i < 0 {
			all = append(all, r)
			continue
		}
		changed := own[i]
		for option, value := range r.Options {
			if _, given := changed.Options[option]; !given {
				changed.Options[option] = value
			}
		}
		if changed.Level == "" {
			changed.Level = r.Level
		}
		if changed.Says == "" {
			changed.Says = r.Says
		}
		if changed.When == nil {
			changed.When = r.When
		}
		own[i] = changed
	}
	return append(all, own...)
}
