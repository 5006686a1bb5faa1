// Package rules holds the agreements beyond names: each rule is one value with
// a name, what it is for, its options and what it does, in a file of its own. A
// layout says under "rules" which of them hold in its projects.
package rules

import (
	"slices"
	"strconv"
	"strings"
	"sync"

	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/source"
)

// A Rule is one agreement that layouts can ask for.
type Rule struct {
	Name    string
	Kind    finding.Kind  // of its findings, where they say nothing else
	Level   finding.Level // where the layout says nothing else
	Doc     string        // what it flags, in one sentence
	Example string        // as it stands in a layout, for the docs
	Options []Option
	// Check says what is wrong with a value of an option beyond its form; nil for nothing.
	Check func(l *layout.Layout, option, value string) error
	Run   func(*Call)
	// Always says that it holds in every project, asked for or not.
	Always bool
	// Arrangement says that what it tells is against the layout, and that the program works all the same.
	Arrangement bool
	// Last says that it tells what the others leave, and so runs after them.
	Last bool
}

// inParts lets a rule look into the projects below its own, too.
var inParts = Option{"in-parts", Flag, false, "true where it holds for the files of projects below it, too, which have layouts of their own", false}

// A Form says how the value of an option is written.
type Form int

// The forms.
const (
	Text    Form = iota // one text
	Texts               // one or several texts
	Paths               // one or several path patterns
	Regexps             // one or several regular expressions
	Finders             // such as find something: by a group
	Count               // a whole number from 1
	Flag                // true or false
)

// An Option is one option of a rule.
type Option struct {
	Name   string
	Form   Form
	Needed bool
	Doc    string
	Open   bool // of Paths: they need not be among the layout's entries
}

// All lists the rules in the order of their names. It is filled in by init
// because some of them look it up.
var All []*Rule

func init() {
	All = []*Rule{
		addresses, arguments, asElsewhere, atLeast, blocksClosed, builtBy, called, circular, className, compiledList, compiledOutput, copies, dangling, declared, defaults, describes, ending, envKeys, filledBlocks, firstFits, foldersAreSchemas, goTemplates, goTypes, handed, homeSaid, ignored, imported, importEndings, inImage, inLists, keysNameFolders, keysSpelt, lookedUp, membersListed, mirrored, namesFile, neighbours, noCycles, numbered, once, oneLast, onlyHere, oneWay, order, own, ownMembers, packageLine,
		paired, parameters, partsAsked, pinned, programs, provided, public, quoted, reached, reads, recognised, sameKeys, sampleOf, sameValue, secrets, setKeys, settingsRead, shadowed, shared, size, sources, sourcesBelow, spelling, stale, targetsAsked, testNames, testsFound, testsRun, text, undeclared, valueKeys, wall, wholeNames, wired, wordsSpelt,
	}
	slices.SortFunc(All, func(a, b *Rule) int { return strings.Compare(a.Name, b.Name) })
}

// Find gives the rule of that name, or nil.
func Find(name string) *Rule {
	for _, r := range All {
		if r.Name == name {
			return r
		}
	}
	return nil
}

// Names gives the names of all rules.
func Names() []string {
	var all []string
	for _, r := range All {
		all = append(all, r.Name)
	}
	return all
}

// A Call is a rule as a layout asks for it, its options understood.
type Call struct {
	*project
	rule    *Rule
	asked   *layout.Rule
	level   finding.Level
	paths   map[string][]place
	regexps map[string][]*lazy.Regexp
	lost    map[string]int  // by file and folder that is not there: the finding that tells of it, from 1
	outside map[string]bool // what files outside every unit use; see shared
}

// Compile understands the rules of a layout, whose paths are those of its entries
// or of names that may stand in any repository, and those that always hold. The
// error holds a *source.Error for each that is not understood.
func Compile(l, common *layout.Layout) ([]*Call, error) {
	var all []*Call
	var mistakes []error
	asked := map[string]bool{}
	for i := range l.Rules {
		r := &l.Rules[i]
		asked[r.Called()] = true // one with a name of its own is one more
		// One that is off may speak of entries that the layout dropped.
		if r.Level == "off" && Find(r.Rule) != nil {
			continue
		}
		c, err := compile(l, common, r)
		if err != nil {
			mistakes = append(mistakes, err)
		}
		all = append(all, c)
	}
	if mistakes != nil {
		return nil, source.Join(mistakes)
	}
	if common != nil && common != l {
		for i := range common.Rules {
			r := &common.Rules[i]
			if asked[r.Called()] {
				continue // the layout has its own
			}
			asked[r.Called()] = true
			c, err := compiledCommon(common, r)
			if err != nil {
				return nil, err
			}
			all = append(all, c)
		}
	}
	for _, r := range All {
		if r.Always && !asked[r.Name] {
			c, err := compile(l, common, &layout.Rule{Rule: r.Name, Layout: l.Name})
			if err != nil {
				return nil, err
			}
			all = append(all, c)
		}
	}
	slices.SortStableFunc(all, func(a, b *Call) int { return turnOf(a.rule) - turnOf(b.rule) })
	return all, nil
}

// turnOf gives 1 for a rule that runs after the others.
func turnOf(r *Rule) int {
	if r.Last {
		return 1
	}
	return 0
}

// commonCalls keeps the rules of names that may stand anywhere as they were understood: they are
// the same for every project. Nothing changes them.
var commonCalls sync.Map // of *layout.Rule to *Call

func compiledCommon(common *layout.Layout, asked *layout.Rule) (*Call, error) {
	if known, ok := commonCalls.Load(asked); ok {
		c := *known.(*Call)
		return &c, nil
	}
	c, err := compile(nil, common, asked)
	if err == nil {
		kept := *c
		commonCalls.Store(asked, &kept)
	}
	return c, err
}

func compile(l, common *layout.Layout, asked *layout.Rule) (*Call, error) {
	rule := Find(asked.Rule)
	if rule == nil {
		known := Names()
		if meant := names.Closest(asked.Rule, known); meant != "" {
			return nil, asked.Errorf("rule", "%q is no rule; did you mean %q?", asked.Rule, meant)
		}
		return nil, asked.Errorf("rule", "%q is no rule; the rules are %s", asked.Rule, strings.Join(known, ", "))
	}
	c := &Call{rule: rule, asked: asked, level: rule.Level, paths: map[string][]place{}, regexps: map[string][]*lazy.Regexp{}}
	if asked.Level != "" && asked.Level != "off" {
		c.level, _ = finding.ParseLevel(asked.Level)
	}
	for given := range asked.Options {
		if rule.option(given) == nil {
			return nil, unknownOption(rule, asked, given)
		}
	}
	for i := range rule.Options {
		o := &rule.Options[i]
		values, given := asked.Options[o.Name]
		if !given && o.Needed {
			return nil, asked.Errorf("rule", "the rule %q needs %q: %s", rule.Name, o.Name, o.Doc)
		}
		if given {
			if err := c.understand(l, common, o, values); err != nil {
				return nil, err
			}
		}
	}
	return c, nil
}

func (r *Rule) option(name string) *Option {
	for i := range r.Options {
		if r.Options[i].Name == name {
			return &r.Options[i]
		}
	}
	return nil
}

func unknownOption(rule *Rule, asked *layout.Rule, given string) error {
	var known []string
	for _, o := range rule.Options {
		known = append(known, o.Name)
	}
	if meant := names.Closest(given, known); meant != "" {
		return asked.Errorf(given, "%q is no option of the rule %q; did you mean %q?", given, rule.Name, meant)
	}
	return asked.Errorf(given, "%q is no option of the rule %q; it has %s", given, rule.Name, strings.Join(known, ", "))
}

func (c *Call) understand(l, common *layout.Layout, o *Option, values []string) error {
	if len(values) == 0 || len(values) > 1 && (o.Form == Text || o.Form == Count || o.Form == Flag) {
		return c.asked.Errorf(o.Name, "%s is one value, not a list", o.Name)
	}
	for _, value := range values {
		if c.rule.Check != nil && l != nil && !c.asked.Checked {
			if err := c.rule.Check(l, o.Name, value); err != nil {
				return c.asked.Errorf(o.Name, "%v", err)
			}
		}
		switch o.Form {
		case Paths:
			parse := layout.ParsePath
			if l != nil {
				parse = l.ParsePath
			}
			p, err := parse(value)
			if err != nil {
				return c.asked.Errorf(o.Name, "%v", err)
			}
			at, reaches := place{PathPattern: p, reached: make([]map[*layout.Entry]bool, len(p.Segments()))}, true
			if l != nil {
				at, reaches = placeOf(l, common, p)
			}
			if !reaches && !o.Open && !(l.Base && len(l.Root.Entries) == 0) { // rules alone are about the trees of others
				return c.asked.Errorf(o.Name, "%q reaches no entry of the layout: no spelling of a key is written like that", value)
			}
			at.across = c.flag(inParts.Name)
			c.paths[o.Name] = append(c.paths[o.Name], at)
		case Regexps, Finders:
			re := lazy.New("(?m)" + value)
			if !c.asked.Checked {
				var err error
				if re, err = lazy.Compile(re.String()); err != nil {
					return c.asked.Errorf(o.Name, "%s is no regular expression: %v", o.Name, err)
				}
				if o.Form == Finders && re.Get().NumSubexp() == 0 {
					return c.asked.Errorf(o.Name, "%s has no group: put brackets around what it is to find", o.Name)
				}
			}
			c.regexps[o.Name] = append(c.regexps[o.Name], re)
		case Count:
			if n, err := strconv.Atoi(value); err != nil || n < 1 {
				return c.asked.Errorf(o.Name, "%s is a whole number from 1", o.Name)
			}
		case Flag:
			if value != "true" && value != "false" {
				return c.asked.Errorf(o.Name, "%s is true or false", o.Name)
			}
		}
	}
	return nil
}

// text gives the value of an option, "" where it is left out.
func (c *Call) text(option string) string {
	if values := c.asked.Options[option]; len(values) > 0 {
		return values[0]
	}
	return ""
}

func (c *Call) texts(option string) []string { return c.asked.Options[option] }

func (c *Call) flag(option string) bool { return c.text(option) == "true" }

func (c *Call) count(option string) int {
	n, _ := strconv.Atoi(c.text(option))
	return n
}
