package output

import (
	"fmt"
	"io"
	"strings"

	"dicaxon/internal/app"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/tree"
)

// CheckMarkdown writes a check's findings for a review comment: what fails in
// short first, all the details folded.
func CheckMarkdown(out io.Writer, r *app.Report) {
	fmt.Fprintf(out, "**Layout:** %s\n", new(Page).totals(r))
	if left := leftOut(r); left != "" {
		fmt.Fprintf(out, "\n%s\n", left)
	}
	for _, said := range unread(r) {
		fmt.Fprintf(out, "\n**Not checked:** %s\n", escaped(said))
	}
	for _, p := range r.Projects {
		if len(p.Findings) == 0 {
			continue
		}
		fmt.Fprintf(out, "\n### %s as %s\n\n", inCode(p.At), escaped(p.Layout.Name))
		for _, f := range p.Findings {
			if f.Level == finding.Error {
				f = printable(f)
				said := homeOf(f)
				if said == "" {
					said = ": " + escaped(f.Message)
				}
				fmt.Fprintf(out, "- **%s** %s%s\n", f.Kind, inCode(withLine(f.Path, f.Line)), said)
			}
		}
		fmt.Fprintf(out, "\n<details><summary>All %s</summary>\n\n| level | kind | where | what |\n|---|---|---|---|\n", count(len(p.Findings), "finding"))
		for _, f := range p.Findings {
			f = printable(f)
			fmt.Fprintf(out, "| %s | %s | %s | %s%s |\n", f.Level, f.Kind, cell(inCode(withLine(f.Path, f.Line))), cell(escaped(sentence(f))), cell(homeOf(f)))
		}
		fmt.Fprint(out, "\n</details>\n")
	}
}

func homeOf(f finding.Finding) string {
	var all []string
	for _, at := range f.Places() {
		all = append(all, inCode(at))
	}
	if len(all) == 0 {
		return ""
	}
	return " → " + strings.Join(all, " or ")
}

// inCode sets a path as code, whatever backticks it holds (CommonMark, code spans).
func inCode(path string) string {
	path = tree.Printable(path)
	if !strings.Contains(path, "`") {
		return "`" + path + "`"
	}
	longest := 0
	for _, run := range backticks.Get().FindAllString(path, -1) {
		longest = max(longest, len(run))
	}
	fence := strings.Repeat("`", longest+1)
	return fence + " " + path + " " + fence
}

var (
	backticks = lazy.New("`+")
	// calling is what a review page makes links, mentions or issues of.
	calling = lazy.New(`(?i)[@#]\w|://|^www\.|\bGH-\d`)
	literal = strings.NewReplacer("&", "&amp;", "<", "&lt;", "*", `\*`, "_", `\_`, "`", "\\`", "[", `\[`, "]", `\]`, "~", `\~`, `\`, `\\`)
)

// escaped keeps a text from being read as Markdown or HTML: it is one line, and what a
// review page would turn into a link or a call stands as code.
func escaped(text string) string {
	words := strings.Fields(text)
	for i, word := range words {
		if plain := strings.Trim(word, `.,;:!?()"'`+"`"); calling.MatchString(word) && plain != "" {
			before, after, _ := strings.Cut(word, plain)
			words[i] = literal.Replace(before) + inCode(plain) + literal.Replace(after)
		} else {
			words[i] = literal.Replace(word)
		}
	}
	return strings.Join(words, " ")
}
