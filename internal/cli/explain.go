package cli

import (
	"cmp"
	"context"
	"io"
	"os"
	"path/filepath"
	"strings"

	"github.com/spf13/cobra"

	"dicaxon/internal/app"
	"dicaxon/internal/explain"
	"dicaxon/internal/lazy"
	"dicaxon/internal/output"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

func (p *program) explain() *cobra.Command {
	var o app.Options
	var root string
	depth := 0
	cmd := &cobra.Command{
		Use:   "explain [PATH…]",
		Short: "Say what a folder or file is for",
		Long: `Explain says what each PATH is for, who makes it, whether it is committed, what belongs
there and what does not, and which entry of which layout says so. A PATH need not be there, and
may be given as check prints it, with a line.

Without a PATH it draws the repository as a tree with the role of everything in it.`,
		Example: `  dicaxon explain
  dicaxon explain --depth 2
  dicaxon explain app/templates node_modules app/views.py:12`,
		Args: cobra.ArbitraryArgs,
		RunE: func(cmd *cobra.Command, args []string) error {
			page, err := p.page()
			if err != nil {
				return err
			}
			if len(args) == 0 {
				r, err := p.run(cmd.Context(), cmp.Or(root, workspace.Root(".", "")), o)
				if err != nil {
					return err
				}
				p.troubles(r.Troubles)
				return p.explainTrees(page, r, depth)
			}
			answers, unread, err := p.answers(cmd.Context(), args, root, o)
			if err != nil {
				return err
			}
			if p.format == "json" {
				return output.ExplanationsJSON(p.out, answers, unread)
			}
			for i := range answers {
				if i > 0 {
					_, _ = io.WriteString(p.out, "\n")
				}
				page.Answer(&answers[i])
			}
			return nil
		},
	}
	layoutFlag(cmd, &o.Layout)
	cmd.Flags().StringVar(&root, "root", "", "the repository (if left out, the one around each PATH)")
	cmd.Flags().IntVar(&depth, "depth", 0, "how many folders deep to draw; 0 for all")
	p.formatFlag(cmd)
	return cmd
}

func (p *program) explainTrees(page *output.Page, r *app.Report, depth int) error {
	var trees [][]explain.Line
	for _, pr := range r.Projects {
		trees = append(trees, explain.Tree(r.Workspace, pr, depth))
	}
	if p.format == "json" {
		return output.TreesJSON(p.out, r, trees)
	}
	for i, pr := range r.Projects {
		if i > 0 {
			_, _ = io.WriteString(p.out, "\n")
		}
		page.Tree(pr, trees[i])
	}
	return nil
}

// answers explains paths, each in the repository around it; a repository is
// read once.
func (p *program) answers(ctx context.Context, args []string, root string, o app.Options) (all []explain.Answer, unread []tree.Trouble, err error) {
	reports := map[string]*app.Report{}
	for _, arg := range args {
		arg = withoutLine(arg)
		at := cmp.Or(root, workspace.Root(arg, "."))
		r := reports[at]
		if r == nil {
			if r, err = p.run(ctx, at, o); err != nil {
				return nil, nil, err
			}
			p.troubles(r.Troubles)
			unread = append(unread, r.Troubles...)
			reports[at] = r
		}
		below, err := belowRoot(r.Root, arg)
		if err != nil {
			return nil, nil, err
		}
		answer := explain.Path(r.Workspace, below)
		answer.Root = tree.Printable(r.Root)
		all = append(all, answer)
	}
	return all, unread, nil
}

var lineAtEnd = lazy.New(`(:\d+){1,2}:?$`)

// withoutLine takes the line off a path as check prints it, where there is no
// file of that very name.
func withoutLine(arg string) string {
	if _, err := os.Lstat(arg); err == nil {
		return arg
	}
	return lineAtEnd.Get().ReplaceAllString(arg, "")
}

// belowRoot gives a path as seen from the root, with "/" and, where it was given
// with one, a folder's slash.
func belowRoot(root, arg string) (string, error) {
	full, err := filepath.Abs(arg)
	if err != nil {
		return "", err
	}
	rel, err := filepath.Rel(root, full)
	if err != nil || rel == ".." || strings.HasPrefix(rel, ".."+string(filepath.Separator)) {
		return "", callf("%s is not in %s; --root names another repository", arg, root)
	}
	if rel == "." {
		return "", nil
	}
	if strings.HasSuffix(filepath.ToSlash(arg), "/") {
		rel += "/"
	}
	return filepath.ToSlash(rel), nil
}
