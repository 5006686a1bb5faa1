package output

import (
	"fmt"
	"io"
	"strings"

	"github.com/rivo/uniseg"

	"dicaxon/internal/compare"
	"dicaxon/internal/explain"
	"dicaxon/internal/finding"
	"dicaxon/internal/tree"
)

// Compare writes two layouts side by side.
func (p *Page) Compare(c *compare.Layouts) {
	column := max(uniseg.StringWidth(c.A.Name), uniseg.StringWidth(c.B.Name)) + 2
	for _, s := range []compare.Side{c.A, c.B} {
		p.headed(column, s.Name, plain, s.Title)
		p.pair(0, column, "", faint, "suits: "+s.Suits)
	}
	p.starts(c)
	p.printf("\nBoth have %s in the same place.\n", entries(c.Same))
	p.refusals(c.Refused)
	p.pairs("The same in another place", c.Moved)
	p.pairs("The same under another name", c.Renamed)
	p.lone("Only "+c.A.Name, c.OnlyA)
	p.lone("Only "+c.B.Name, c.OnlyB)
}

// newProject is the title above the trees of what scaffold makes.
const newProject = "A new project with each"

// starts draws the two trees of new projects side by side, or one below the
// other where the screen is too narrow.
func (p *Page) starts(c *compare.Layouts) {
	if len(c.StartA) == 0 || len(c.StartB) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, newProject))
	left, right := p.outline(c.StartA, ""), p.outline(c.StartB, "")
	column := uniseg.StringWidth(c.A.Name)
	for _, line := range left {
		column = max(column, uniseg.StringWidth(line))
	}
	widest := 0
	for _, line := range right {
		widest = max(widest, uniseg.StringWidth(line))
	}
	if 2+column+4+widest > p.Width {
		for _, tree := range []struct {
			name  string
			lines []string
		}{{c.A.Name, left}, {c.B.Name, right}} {
			p.printf("  %s\n", tree.name)
			for _, line := range tree.lines {
				p.printf("  %s\n", line)
			}
		}
		return
	}
	left, right = append([]string{c.A.Name}, left...), append([]string{c.B.Name}, right...)
	for i := range max(len(left), len(right)) {
		a, b := "", ""
		if i < len(left) {
			a = left[i]
		}
		if i < len(right) {
			b = right[i]
		}
		p.printf("%s\n", strings.TrimRight("  "+a+strings.Repeat(" ", column-uniseg.StringWidth(a)+4)+b, " "))
	}
}

// outline gives the lines of a tree, names only.
func (p *Page) outline(lines []explain.Line, prefix string) []string {
	var all []string
	for i, l := range lines {
		mark, under := p.branches(i == len(lines)-1)
		all = append(all, prefix+mark+l.Name)
		all = append(all, p.outline(l.Below, prefix+under)...)
	}
	return all
}

func (p *Page) refusals(all []compare.Refusal) {
	if len(all) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, "One has, the other does without"))
	for _, r := range all {
		p.printf("  %s\n    ", p.in(location, r.Path))
		p.wrap(4, plain, r.Role)
		p.printf("    ")
		p.wrap(4, faint, r.By+": "+r.Why)
	}
}

func entries(n int) string {
	if n == 1 {
		return "1 entry"
	}
	return fmt.Sprintf("%d entries", n)
}

func (p *Page) pairs(title string, all []compare.Pair) {
	if len(all) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, title))
	for _, pair := range all {
		p.printf("  %s\n  %s %s\n    ", p.in(location, pair.A), p.arrow(), p.in(location, pair.B))
		p.wrap(4, faint, pair.Role)
	}
}

func (p *Page) lone(title string, all []compare.Lone) {
	if len(all) == 0 {
		return
	}
	p.printf("\n%s\n", p.in(strong, title))
	for _, l := range all {
		p.printf("  %s  %s\n    ", p.in(location, l.Path), l.Need)
		p.wrap(4, faint, l.Role)
	}
}

// CompareMarkdown writes two layouts side by side as Markdown.
func CompareMarkdown(out io.Writer, c *compare.Layouts) {
	fmt.Fprintf(out, "# %s and %s\n\n", escaped(c.A.Name), escaped(c.B.Name))
	for _, s := range []compare.Side{c.A, c.B} {
		fmt.Fprintf(out, "- **%s**: %s. Suits: %s\n", escaped(s.Name), escaped(s.Title), escaped(s.Suits))
	}
	if len(c.StartA) > 0 && len(c.StartB) > 0 {
		fmt.Fprintf(out, "\n## %s\n", newProject)
		for _, tree := range []struct {
			name  string
			lines []explain.Line
		}{{c.A.Name, c.StartA}, {c.B.Name, c.StartB}} {
			fmt.Fprintf(out, "\n%s\n\n```\n%s\n```\n", tree.name, strings.Join(new(Page).outline(tree.lines, ""), "\n"))
		}
	}
	fmt.Fprintf(out, "\nBoth have %s in the same place.\n", entries(c.Same))
	if len(c.Refused) > 0 {
		fmt.Fprintf(out, "\n## One has, the other does without\n\n| entry | role | the other |\n|---|---|---|\n")
		for _, r := range c.Refused {
			fmt.Fprintf(out, "| %s | %s | %s: %s |\n", cell(inCode(r.Path)), cell(escaped(r.Role)), r.By, cell(escaped(r.Why)))
		}
	}
	for _, part := range []struct {
		title string
		pairs []compare.Pair
	}{{"The same in another place", c.Moved}, {"The same under another name", c.Renamed}} {
		if len(part.pairs) == 0 {
			continue
		}
		fmt.Fprintf(out, "\n## %s\n\n| %s | %s | role |\n|---|---|---|\n", part.title, c.A.Name, c.B.Name)
		for _, pair := range part.pairs {
			fmt.Fprintf(out, "| %s | %s | %s |\n", cell(inCode(pair.A)), cell(inCode(pair.B)), cell(escaped(pair.Role)))
		}
	}
	for _, part := range []struct {
		name string
		all  []compare.Lone
	}{{c.A.Name, c.OnlyA}, {c.B.Name, c.OnlyB}} {
		if len(part.all) == 0 {
			continue
		}
		fmt.Fprintf(out, "\n## Only %s\n\n| entry | need | role |\n|---|---|---|\n", part.name)
		for _, l := range part.all {
			fmt.Fprintf(out, "| %s | %s | %s |\n", cell(inCode(l.Path)), l.Need, cell(escaped(l.Role)))
		}
	}
}

// parts are the parts of a distance, with their titles.
func parts(d *compare.Distance) []struct {
	Title string
	All   []finding.Finding
} {
	return []struct {
		Title string
		All   []finding.Finding
	}{{"Would move or be renamed", d.Moves}, {"Would be added", d.Missing}, {"Has no clear place", d.Unclear}, {"Further", d.Further}}
}

func near(d *compare.Distance) string {
	return fmt.Sprintf("%d %% of what is there has a place in it, %d %% of what it wants is there", d.Placed, d.Present)
}

// Distance writes how far a repository is from a layout.
func (p *Page) Distance(at string, d *compare.Distance) {
	p.printf("%s and %s\n", p.in(location, tree.Printable(at)), p.in(strong, d.Layout.Name))
	p.wrap(0, plain, near(d)+".")
	for _, part := range parts(d) {
		if len(part.All) == 0 {
			continue
		}
		p.printf("\n%s: %d\n", p.in(strong, part.Title), len(part.All))
		for _, f := range part.All {
			f = printable(f)
			p.printf("  %s\n", p.in(location, f.Path))
			for _, home := range f.Places() {
				p.printf("    %s %s\n", p.arrow(), p.in(location, home))
			}
		}
	}
}

// DistanceMarkdown writes how far a repository is from a layout as Markdown.
func DistanceMarkdown(out io.Writer, at string, d *compare.Distance) {
	fmt.Fprintf(out, "# %s and %s\n\n%s.\n", escaped(tree.Printable(at)), escaped(d.Layout.Name), near(d))
	for _, part := range parts(d) {
		if len(part.All) == 0 {
			continue
		}
		fmt.Fprintf(out, "\n## %s: %d\n\n| path | home | why |\n|---|---|---|\n", part.Title, len(part.All))
		for _, f := range part.All {
			f = printable(f)
			home := ""
			if f.Home != "" {
				home = inCode(f.Home)
			}
			fmt.Fprintf(out, "| %s | %s | %s |\n", cell(inCode(f.Path)), cell(home), cell(escaped(sentence(f))))
		}
	}
}
