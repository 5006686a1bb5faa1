// Package baseline decides which findings are told: levels and waivers of
// dicaxon.yaml, waivers in comments, the kinds that were asked for, and what was
// accepted or known before.
package baseline

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/safe"
	"dicaxon/internal/tree"
	"dicaxon/internal/workspace"
)

// AcceptedName is the file with the findings that are accepted for now.
const AcceptedName = workspace.AcceptedName

// A Settlement says how much was left out of a report, and why.
type Settlement struct {
	Waived   int // by dicaxon.yaml or by a comment
	Accepted int // were accepted before
	Gone     int // were accepted before and are there no longer
	Known    int // were there already in the revision compared with
	Filtered int // are of kinds that were not asked for
	Outside  int // are about other parts of the repository
}

// Any says whether anything was left out.
func (s Settlement) Any() bool { return s.Waived+s.Accepted+s.Known+s.Filtered+s.Outside > 0 }

// Options say which findings are asked for.
type Options struct {
	Only, Skip []string // kinds, rules, or the names that layouts give theirs
	Within     string   // a path of the repository: only what is about it or below; "" for all
	Today      time.Time
}

// Wants says whether a finding is of the kinds that are asked for.
func (o *Options) Wants(f *finding.Finding) bool {
	return (len(o.Only) == 0 || f.Is(o.Only)) && !f.Is(o.Skip)
}

// Settle changes the findings of all projects as dicaxon.yaml, comments and the
// caller ask, in this order: levels, waivers, kinds asked for, parts asked for.
func Settle(w *workspace.Workspace, o Options) (s Settlement) {
	today := cmp.Or(o.Today, time.Now())
	used := map[*workspace.Waiver]int{}
	comments := &comments{repository: w.Repository, lines: map[string][]string{}}
	for _, p := range w.Projects {
		p.Findings = slices.DeleteFunc(p.Findings, func(f finding.Finding) bool {
			return levelOf(w.Configs, &f) == "off"
		})
		for i := range p.Findings {
			if word := levelOf(w.Configs, &p.Findings[i]); word != "" {
				p.Findings[i].Level, _ = finding.ParseLevel(word)
			}
		}
		p.Findings = slices.DeleteFunc(p.Findings, func(f finding.Finding) bool {
			waived := comments.waive(&f)
			for _, c := range w.Configs {
				for k := range c.Waivers {
					if w := &c.Waivers[k]; !waived && w.Reason != "" && !w.Over(today) && w.Holds(c.Folder, &f) {
						used[w]++
						waived = true
					}
				}
			}
			if waived {
				s.Waived++
			}
			return waived
		})
	}
	if len(w.Projects) > 0 {
		p := w.Projects[0]
		p.Findings = append(p.Findings, ofWaivers(w.Configs, used, today)...)
	}
	for _, p := range w.Projects {
		var filtered, outside []finding.Finding
		p.Findings = slices.DeleteFunc(p.Findings, func(f finding.Finding) bool {
			switch {
			case !o.Wants(&f):
				filtered = append(filtered, f)
			case o.Within != "" && !about(&f, o.Within):
				outside = append(outside, f)
			default:
				return false
			}
			return true
		})
		s.Filtered += told(filtered)
		s.Outside += told(outside)
	}
	return s
}

// told counts findings as they would be told: once for each cause.
func told(all []finding.Finding) int { return len(finding.Fold(finding.Join(all))) }

// about says whether a finding is about a path or what lies below it.
func about(f *finding.Finding, path string) bool {
	below := func(at string) bool { return strings.TrimSuffix(at, "/") == path || strings.HasPrefix(at, path+"/") }
	return below(f.Path) || f.Home != "" && below(f.Home)
}

// levelOf gives the level, or "off", that dicaxon.yaml has for the finding's
// rule or else its kind, the nearest file first; "" where none says anything.
func levelOf(configs []*workspace.File, f *finding.Finding) string {
	for i := len(configs) - 1; i >= 0; i-- {
		if c := configs[i]; strings.HasPrefix(f.Path, c.Folder) && (f.Path != c.Folder || c.Folder == "") {
			if word := cmp.Or(c.Levels[f.Rule], c.Levels[string(f.Kind)]); word != "" {
				return word
			}
		}
	}
	return ""
}

// ofWaivers gives findings about waivers themselves.
func ofWaivers(configs []*workspace.File, used map[*workspace.Waiver]int, today time.Time) []finding.Finding {
	var all []finding.Finding
	for _, c := range configs {
		for i := range c.Waivers {
			w := &c.Waivers[i]
			f := finding.Finding{Kind: finding.Leftover, Level: finding.Warning, Path: c.Path, Line: w.Line}
			switch {
			case w.Reason == "":
				f.Kind, f.Message = finding.Substandard, "a waiver without a reason waives nothing; say why"
			case w.Over(today):
				f.Message = "the waiver ended on " + w.Until.Format(time.DateOnly) + "; put right what it waived, or give it another day"
			case used[w] == 0:
				f.Level, f.Message = finding.Note, "the waiver waives nothing any more"
			default:
				continue
			}
			all = append(all, f)
		}
	}
	return all
}

// inline is a waiver in a comment: "dicaxon: waive tangled, unwired: reason".
var inline = lazy.New(`dicaxon: waive ([a-z, -]+): *(\S.*)`)

// firstLines is how far down a comment may stand that waives a finding about a
// whole file.
const firstLines = 10

// comments looks waivers up in the texts of files, each split once.
type comments struct {
	repository *tree.Repository
	lines      map[string][]string // nil for a file without a waiver
}

// waive says whether a comment on the line of the finding, on the line above it
// or, for the whole file, at its top waives it.
func (c *comments) waive(f *finding.Finding) bool {
	if strings.HasSuffix(f.Path, "/") || f.Path == "" || f.Kind == finding.Missing {
		return false
	}
	lines, known := c.lines[f.Path]
	if !known {
		if text, err := c.repository.Text(f.Path); err == nil && strings.Contains(string(text), "dicaxon: waive") {
			lines = strings.Split(string(text), "\n")
		}
		c.lines[f.Path] = lines
	}
	from, to := 0, min(firstLines, len(lines))
	if f.Line > 0 {
		from, to = min(max(f.Line-2, 0), len(lines)), min(f.Line, len(lines))
	}
	for i := from; i < to; i++ {
		if m := inline.Get().FindStringSubmatch(lines[i]); m != nil {
			for _, word := range strings.Split(m[1], ",") {
				if f.Is([]string{strings.TrimSpace(word)}) {
					return true
				}
			}
		}
	}
	return false
}

// acceptedFile is the form of the file of accepted findings.
type acceptedFile struct {
	Schema   string     `json:"schema"`
	Accepted []accepted `json:"accepted"`
}

type accepted struct {
	Kind    finding.Kind `json:"kind"`
	Path    string       `json:"path"`
	Rule    string       `json:"rule,omitempty"`
	Entry   string       `json:"entry,omitempty"`
	About   string       `json:"about,omitempty"`
	Message string       `json:"message"`         // for people
	Holds   []string     `json:"holds,omitempty"` // of a folder: what lay in it
}

const acceptedSchema = "dicaxon.accepted/1"

// An UnreadableError says that the file of accepted findings is no such file.
type UnreadableError struct{ Path string }

func (e *UnreadableError) Error() string {
	return fmt.Sprintf("%s cannot be read: it is no JSON of %s; `dicaxon check --accept` writes it anew", e.Path, acceptedSchema)
}

// LeaveAccepted takes the findings out that were accepted before, in the root's
// file or in that of a part.
func LeaveAccepted(w *workspace.Workspace, s *Settlement) error {
	known, err := readAccepted(w)
	if err != nil || known == nil {
		return err
	}
	again, gone := Leave(w, known)
	s.Accepted, s.Gone = again, gone
	return nil
}

func readAccepted(w *workspace.Workspace) ([]finding.Finding, error) {
	var all []finding.Finding
	for _, folder := range w.Parts() {
		if folder != w.Repository.Top && folder.Find(AcceptedName) == nil {
			continue
		}
		known, err := acceptedIn(w, folder)
		if err != nil {
			return nil, err
		}
		for _, a := range known {
			all = append(all, finding.Finding{Kind: a.Kind, Path: folder.Path() + a.Path, Rule: a.Rule, Entry: a.Entry, About: a.About, Message: a.Message, Holds: a.Holds})
		}
	}
	return all, nil
}

// acceptedIn reads the file of accepted findings of a folder; none where it has none.
func acceptedIn(w *workspace.Workspace, folder *tree.Folder) ([]accepted, error) {
	text, err := safe.ReadFile(w.Root, folder.Path()+AcceptedName, safe.Listing)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var file acceptedFile
	if err := json.Unmarshal(text, &file); err != nil || file.Schema != acceptedSchema {
		return nil, &UnreadableError{folder.Path() + AcceptedName}
	}
	return file.Accepted, nil
}

// Leave takes known findings out, and says how many are there again and how many
// are gone. A folder that was accepted with what lay in it is told again once
// there is more in it.
func Leave(w *workspace.Workspace, known []finding.Finding) (again, gone int) {
	var all []finding.Finding
	for _, p := range w.Projects {
		for i := range p.Findings {
			f := &p.Findings[i]
			f.Holds = holds(w, f)
		}
		all = append(all, p.Findings...)
	}
	fresh, seen, gone := finding.New(all, known)
	keep := map[string]int{}
	for i := range fresh {
		keep[fresh[i].Key()]++
	}
	for _, p := range w.Projects {
		p.Findings = slices.DeleteFunc(p.Findings, func(f finding.Finding) bool {
			key := f.Key()
			keep[key]--
			return keep[key] < 0
		})
	}
	return len(seen), gone
}

// mostHeld is how many names an accepted folder is known by.
const mostHeld = 500

// holds lists the files of a folder that a finding is about, by their paths in
// it; nil for a file.
func holds(w *workspace.Workspace, f *finding.Finding) []string {
	path, folder := strings.CutSuffix(f.Path, "/")
	if !folder || f.Kind != finding.Extra && f.Kind != finding.Misplaced {
		return nil
	}
	n := w.Repository.Top.At(path)
	if n == nil || n.Folder == nil {
		return nil
	}
	var all []string
	var list func(in *tree.Folder)
	list = func(in *tree.Folder) {
		for i := range in.Nodes {
			switch n := &in.Nodes[i]; {
			case n.Ignored || len(all) >= mostHeld:
			case n.Folder != nil:
				list(n.Folder)
			default:
				all = append(all, strings.TrimPrefix(in.Path()+n.Name, f.Path))
			}
		}
	}
	list(n.Folder)
	return all
}

// Accept writes the findings into the root's file of accepted ones, and says how
// many those are. What was accepted before and was not asked for now stays.
func Accept(ctx context.Context, w *workspace.Workspace, o Options) (int, error) {
	file := acceptedFile{Schema: acceptedSchema, Accepted: []accepted{}}
	of := map[string]string{} // by the name that a layout gives a rule, that rule
	for _, p := range w.Projects {
		// Who lives with a cause lives with what comes of it.
		for _, f := range slices.Concat(p.Findings, p.Ended) {
			of[f.Rule] = f.Of
			file.Accepted = append(file.Accepted, accepted{f.Kind, f.Path, f.Rule, f.Entry, f.About, f.Message, holds(w, &f)})
		}
	}
	n := len(file.Accepted)
	if len(o.Only)+len(o.Skip) > 0 || o.Within != "" {
		before, err := acceptedIn(w, w.Repository.Top)
		if err != nil {
			return 0, err
		}
		for _, a := range before {
			f := finding.Finding{Kind: a.Kind, Path: a.Path, Rule: a.Rule, Of: of[a.Rule]}
			if !o.Wants(&f) || o.Within != "" && !about(&f, o.Within) {
				file.Accepted = append(file.Accepted, a)
			}
		}
	}
	text, err := json.MarshalIndent(file, "", "  ")
	if err != nil {
		return 0, err
	}
	return n, changes.WriteFile(ctx, filepath.Join(w.Root, AcceptedName), append(text, '\n'), 0o644)
}
