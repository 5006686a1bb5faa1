package output

import (
	"cmp"
	"fmt"
	"io"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
)

// LayoutsMarkdown writes the list of layouts as a Markdown table that leads to
// their pages.
func LayoutsMarkdown(out io.Writer, index []catalogue.Summary) {
	fmt.Fprint(out, "| layout | what follows it | when to choose it |\n|---|---|---|\n")
	for _, s := range index {
		fmt.Fprintf(out, "| [%s](%s) | %s | %s |\n", s.Name, PageName(s.Name), cell(escaped(s.Title)), cell(escaped(s.Suits)))
	}
}

// PageName gives the name of a layout's page.
func PageName(name string) string { return strings.ReplaceAll(name, "/", "-") + ".md" }

// LayoutMarkdown writes the page of a layout.
func LayoutMarkdown(out io.Writer, l *layout.Layout) {
	fmt.Fprintf(out, "# %s\n\n%s.", escaped(l.Name), escaped(l.Title))
	if l.Describes != "" {
		fmt.Fprintf(out, " True of %s.", escaped(l.Describes))
	}
	if l.Suits != "" {
		fmt.Fprintf(out, "\n\n**Suits:** %s", escaped(l.Suits))
	}
	if len(l.Asks) > 0 {
		fmt.Fprint(out, "\n\n`scaffold` asks:\n")
		for _, ask := range l.Asks {
			fmt.Fprintf(out, "\n- %s: %s (%s)", inCode(ask.Name), escaped(ask.Question), inCode(ask.Default))
		}
	}
	fmt.Fprint(out, "\n\n| entry | need | role | made by | git |\n|---|---|---|---|---|\n")
	for _, e := range l.Entries[1:] {
		role := escaped(e.Role)
		for _, nh := range e.NotHere {
			role += fmt.Sprintf(" Not here: %s (%s).", escaped(strings.ToLower(nh.What[:1])+nh.What[1:]), inCode(nh.Home.Path()))
		}
		var also []string
		for _, p := range e.Spellings[1:] {
			text, _ := p.Fill(nil)
			also = append(also, inCode(text))
		}
		if len(also) > 0 {
			role += " Also: " + strings.Join(also, ", ") + "."
		}
		fmt.Fprintf(out, "| %s | %s | %s | %s | %s |\n", cell(inCode(e.Path())), e.Need, cell(role), cell(escaped(cmp.Or(e.MadeBy, "a person"))), e.Git)
	}
	if all := agreements(l); len(all) > 0 {
		fmt.Fprintf(out, "\n## %s\n\n", agreementsTitle)
		for _, a := range all {
			fmt.Fprintf(out, "- %s: %s\n", inCode(a[0]), escaped(a[1]))
		}
	}
}

// cell makes text fit into a cell of a table.
func cell(text string) string { return strings.ReplaceAll(text, "|", "\\|") }
