package check

import (
	"cmp"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"github.com/google/renameio/v2"

	"dicaxon/internal/finding"
	"dicaxon/internal/project"
	"dicaxon/internal/tree"
)

// AcceptedName is the file at the root of a repository that holds the findings
// which are accepted for now.
const AcceptedName = "dicaxon-accepted.json"

// A Settlement is what was left out of a report, and why.
type Settlement struct {
	Waived   int // by dicaxon.yaml or by a comment
	Accepted int // were accepted before
	Gone     int // were accepted before and are there no longer
	Known    int // were there already in the revision compared with
}

// settle changes the findings of all projects as dicaxon.yaml, comments and the
// caller ask, in this order: levels, waivers, kinds asked for, what is accepted.
func (r *Report) settle(rep *tree.Repository, config *project.File, o Options) {
	if config == nil {
		config = &project.File{}
	}
	used := make([]int, len(config.Waivers))
	today := cmp.Or(o.Today, time.Now())
	for i := range r.Projects {
		m := r.Projects[i].Match
		for k := range m.Findings {
			f := &m.Findings[k]
			if word := levelOf(config.Levels, f); word != "" && word != "off" {
				f.Level, _ = finding.ParseLevel(word)
			}
		}
		m.Findings = slices.DeleteFunc(m.Findings, func(f finding.Finding) bool {
			if levelOf(config.Levels, &f) == "off" {
				return true
			}
			for k := range config.Waivers {
				if w := &config.Waivers[k]; w.Reason != "" && !w.Over(today) && w.Holds(&f) {
					used[k]++
					r.Waived++
					return true
				}
			}
			if waivedInline(rep, &f) {
				r.Waived++
				return true
			}
			return false
		})
	}
	if len(r.Projects) > 0 {
		m := r.Projects[0].Match
		m.Findings = append(m.Findings, ofWaivers(config.Waivers, used, today)...)
		finding.Sort(m.Findings)
	}
	for i := range r.Projects {
		m := r.Projects[i].Match
		m.Findings = slices.DeleteFunc(m.Findings, func(f finding.Finding) bool { return len(o.Only) > 0 && !f.Is(o.Only) || f.Is(o.Skip) })
	}
}

// levelOf gives the level, or "off", that dicaxon.yaml has for the finding's
// rule or else its kind; "" where it says nothing.
func levelOf(levels map[string]string, f *finding.Finding) string {
	return cmp.Or(levels[f.Rule], levels[string(f.Kind)])
}

// ofWaivers gives findings about waivers themselves.
func ofWaivers(waivers []project.Waiver, used []int, today time.Time) []finding.Finding {
	var all []finding.Finding
	for i := range waivers {
		w := &waivers[i]
		f := finding.Finding{Kind: finding.Leftover, Level: finding.Warning, Path: project.FileName, Line: w.Line}
		switch {
		case w.Reason == "":
			f.Kind, f.Message = finding.Substandard, "a waiver without a reason waives nothing; say why"
		case w.Over(today):
			f.Message = "the waiver ended on " + w.Until.Format(time.DateOnly) + "; put right what it waived, or give it another day"
		case used[i] == 0:
			f.Level, f.Message = finding.Note, "the waiver waives nothing any more"
		default:
			continue
		}
		all = append(all, f)
	}
	return all
}

// inline is a waiver in a comment: "dicaxon: waive tangled, unwired: reason".
var inline = regexp.MustCompile(`dicaxon: waive ([a-z, -]+): *(\S.*)`)

// firstLines is how far down a comment may stand that waives a finding about a
// whole file.
const firstLines = 10

// waivedInline says whether a comment on the line of the finding, on the line
// above it or, for the whole file, at its top waives it.
func waivedInline(rep *tree.Repository, f *finding.Finding) bool {
	if strings.HasSuffix(f.Path, "/") || f.Path == "" || f.Kind == finding.Missing {
		return false
	}
	text, err := rep.Text(f.Path)
	if err != nil || !strings.Contains(string(text), "dicaxon: waive") {
		return false
	}
	lines := strings.Split(string(text), "\n")
	from, to := 0, min(firstLines, len(lines))
	if f.Line > 0 {
		from, to = max(f.Line-2, 0), min(f.Line, len(lines))
	}
	for i := from; i < to; i++ {
		if m := inline.FindStringSubmatch(lines[i]); m != nil {
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
	Message string       `json:"message"`
}

const acceptedSchema = "dicaxon.accepted/1"

// leaveAccepted takes the findings out that were accepted before.
func (r *Report) leaveAccepted() error {
	text, err := os.ReadFile(filepath.Join(r.Root, AcceptedName))
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	if err != nil {
		return err
	}
	var file acceptedFile
	if err := json.Unmarshal(text, &file); err != nil || file.Schema != acceptedSchema {
		return CallError(fmt.Sprintf("%s cannot be read: it is no JSON of %s; `dicaxon check --accept` writes it anew", AcceptedName, acceptedSchema))
	}
	var known []finding.Finding
	for _, a := range file.Accepted {
		known = append(known, finding.Finding{Kind: a.Kind, Path: a.Path, Rule: a.Rule, Entry: a.Entry, Message: a.Message})
	}
	again, gone := r.leave(known)
	r.Accepted, r.Gone = again, gone
	return nil
}

// leave takes known findings out of the report.
func (r *Report) leave(known []finding.Finding) (again, gone int) {
	var all []finding.Finding
	for i := range r.Projects {
		all = append(all, r.Projects[i].Match.Findings...)
	}
	fresh, seen, gone := finding.New(all, known)
	keep := map[string]int{}
	for i := range fresh {
		keep[fresh[i].Key()]++
	}
	for i := range r.Projects {
		m := r.Projects[i].Match
		m.Findings = slices.DeleteFunc(m.Findings, func(f finding.Finding) bool {
			key := f.Key()
			keep[key]--
			return keep[key] < 0
		})
	}
	return len(seen), gone
}

// Accept writes what the report still holds into the file of accepted findings,
// and says how many that are.
func (r *Report) Accept() (int, error) {
	file := acceptedFile{Schema: acceptedSchema, Accepted: []accepted{}}
	for _, p := range r.Projects {
		for _, f := range p.Match.Findings {
			file.Accepted = append(file.Accepted, accepted{f.Kind, f.Path, f.Rule, f.Entry, f.Message})
		}
	}
	text, err := json.MarshalIndent(file, "", "  ")
	if err != nil {
		return 0, err
	}
	return len(file.Accepted), renameio.WriteFile(filepath.Join(r.Root, AcceptedName), append(text, '\n'), 0o644)
}
