package output

import (
	"fmt"
	"io"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/rules"
)

// RuleLine is what programs are told of a rule.
type RuleLine struct {
	Rule    string       `json:"rule"`
	Kind    finding.Kind `json:"kind"`
	Level   string       `json:"level"`
	Doc     string       `json:"doc"`
	Always  bool         `json:"always,omitempty"`
	Options []OptionLine `json:"options"`
	Example string       `json:"example"`
}

// OptionLine is what programs are told of an option.
type OptionLine struct {
	Option string `json:"option"`
	Form   string `json:"form"`
	Needed bool   `json:"needed"`
	Doc    string `json:"doc"`
}

var formWords = map[rules.Form]string{
	rules.Text: "a text", rules.Texts: "texts", rules.Paths: "path patterns", rules.Regexps: "regular expressions", rules.Finders: "regular expressions", rules.Count: "a number", rules.Flag: "true or false",
}

// RuleLines gives all rules for programs.
func RuleLines() []RuleLine {
	var all []RuleLine
	for _, r := range rules.All {
		line := RuleLine{r.Name, r.Kind, r.Level.String(), r.Doc, r.Always, []OptionLine{}, r.Example}
		for _, o := range r.Options {
			line.Options = append(line.Options, OptionLine{o.Name, formWords[o.Form], o.Needed, o.Doc})
		}
		all = append(all, line)
	}
	return all
}

// Rules writes the rules for people.
func (p *Page) Rules() {
	for i, r := range RuleLines() {
		if i > 0 {
			p.printf("\n")
		}
		p.headed(20, r.Rule, plain, r.Doc)
		p.pair(0, 20, "", faint, fmt.Sprintf("%s, %s%s", r.Kind, r.Level, always(r.Always)))
		for _, o := range r.Options {
			p.pair(2, 20, o.Option, faint, o.Doc+needed(o.Needed))
		}
	}
}

func always(yes bool) string {
	if yes {
		return "; holds in every project"
	}
	return ""
}

func needed(yes bool) string {
	if yes {
		return "; needed"
	}
	return ""
}

// RulesMarkdown writes the page of the rules.
func RulesMarkdown(out io.Writer) {
	fmt.Fprint(out, "# Rules\n\nAgreements beyond names. A layout asks for them under [`rules`](layout-language.md#rules); a rule that holds in every\nproject can be turned off there with `level: \"off\"`. Path patterns are relative to the project.\n\n`dicaxon layouts --rules` shows this page in the terminal; `dicaxon check --explain KIND` says what a kind of finding means.\n")
	for _, r := range RuleLines() {
		fmt.Fprintf(out, "\n## %s\n\n%s\n\nGives `%s`, as %s%s.\n", r.Rule, r.Doc, r.Kind, article(r.Level), always(r.Always))
		if len(r.Options) > 0 {
			fmt.Fprint(out, "\n| option | written as | what it says |\n|---|---|---|\n")
			for _, o := range r.Options {
				fmt.Fprintf(out, "| `%s` | %s | %s%s |\n", o.Option, o.Form, cell(o.Doc), needed(o.Needed))
			}
		}
		fmt.Fprintf(out, "\n```yaml\nrules:\n  %s\n```\n", strings.ReplaceAll(r.Example, "\n", "\n  "))
	}
}

func article(level string) string {
	if level == "error" {
		return "an error"
	}
	return "a " + level
}

// Meaning writes what a kind of finding means.
func (p *Page) Meaning(m *finding.Meaning) {
	p.headed(10, string(m.Kind), plain, m.Means)
	p.pair(0, 10, "", plain, "")
	p.pair(0, 10, "why", plain, m.Why)
	p.pair(0, 10, "mend", plain, m.Mend)
	var by []string
	for _, r := range rules.All {
		if r.Kind == m.Kind {
			by = append(by, r.Name)
		}
	}
	if len(by) > 0 {
		p.pair(0, 10, "rules", plain, strings.Join(by, ", ")+" (`dicaxon layouts --rules` has their options)")
	}
}
