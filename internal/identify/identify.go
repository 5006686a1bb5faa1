// Package identify finds the projects of a repository and the layouts that
// they follow: by signs first, which an index holds, then by how well the tree
// of each layout that is left fits.
package identify

import (
	"cmp"
	"fmt"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/match"
	"dicaxon/internal/tree"
)

// A Candidate is a layout that a project may follow.
type Candidate struct {
	Layout   string   `json:"layout"`
	Score    float64  `json:"score"`    // from 0 to 1
	Evidence []string `json:"evidence"` // what speaks for it
	signs    float64
	wanted   float64 // share of the wanted entries that are there
	match    *match.Result
	placed   float64 // share of what is there that has a place
}

// A Project is a folder that looks like one.
type Project struct {
	At     string      `json:"at"` // below the root, "." for the root itself
	Best   *Candidate  `json:"best"`
	Others []Candidate `json:"others"` // runners-up, the nearest first
	// Close names the runners-up that fit almost as well as the best.
	Close  []string     `json:"close,omitempty"`
	Folder *tree.Folder `json:"-"`
}

// The weights of a score, and what it must reach.
const (
	signsWeight  = 0.35
	wantedWeight = 0.30
	placedWeight = 0.35
	enough       = 0.60
	leastWanted  = 0.50 // share of the wanted entries without which a layout is only near
	leastPlaced  = 0.45 // share of what is there that must have a place in it
	closeBy      = 0.04

	explainedWeight = 0.7 // of a stray with a home, against something in its place
)

// runnersUp is how many layouts that came next are told.
const runnersUp = 3

// firstLook is how many folders of a project are paired to see which layout
// fits; more would only cost time.
const firstLook = 400

// An Identifier looks for projects in one repository.
type Identifier struct {
	repository *tree.Repository
	catalogue  catalogue.Catalogue
	index      []catalogue.Summary
	known      nameSet    // files by which projects are known
	texts      []fileForm // the files that text signs ask about, each pattern once
}

// New makes an Identifier. Its Watch goes with the reading of the repository
// that Projects is then given.
func New(c catalogue.Catalogue) (*Identifier, error) {
	index, err := c.Index()
	if err != nil {
		return nil, err
	}
	id := &Identifier{catalogue: c, index: index}
	for _, s := range index {
		for _, sign := range s.Signs {
			id.known.add(sign.Has)
			if sign.Text != nil {
				id.texts = addForm(id.texts, sign.Text.File)
			}
		}
	}
	for _, name := range manifest.Names() {
		id.known.add(name)
	}
	return id, nil
}

// Watch says whether projects are known by a file of that name.
func (id *Identifier) Watch(name string) bool { return id.known.has(name) }

// Projects gives the projects of the repository, in the order of their paths.
// Where there is none that it knows, the one Project it gives has no Best and
// its Others say what came nearest.
func (id *Identifier) Projects(r *tree.Repository) ([]Project, error) {
	id.repository = r
	var found []Project
	near := Project{At: ".", Folder: r.Top}
	folders := r.Watched
	if len(folders) == 0 || folders[0] != r.Top {
		folders = append([]*tree.Folder{r.Top}, folders...)
	}
	for _, f := range folders {
		p, err := id.look(f)
		switch {
		case err != nil:
			return nil, err
		case p.Best == nil:
			if len(p.Others) > 0 && (len(near.Others) == 0 || p.Others[0].Score > near.Others[0].Score) {
				near = p
			}
		case !within(f, p.Best, found):
			found = append(found, p)
		}
	}
	if len(found) == 0 {
		return []Project{near}, nil
	}
	return found, nil
}

// within says whether the folder is only a part of a project found around it.
func within(f *tree.Folder, best *Candidate, found []Project) bool {
	for _, p := range found {
		for up := f.Parent; up != nil; up = up.Parent {
			if up != p.Folder || layout.Family(p.Best.Layout) != layout.Family(best.Layout) {
				continue
			}
			// Where the layout around it has a place for the folder, such as a
			// crate in a workspace, it is no project of its own.
			place, _ := p.Best.match.Folder(f)
			if place.State == match.Placed || p.Best.Score >= best.Score {
				return true
			}
		}
	}
	return false
}

// look weighs every layout with a sign in the folder.
func (id *Identifier) look(f *tree.Folder) (Project, error) {
	p := Project{At: cmp.Or(strings.TrimSuffix(f.Path(), "/"), "."), Folder: f}
	clues := &clues{repository: id.repository, folder: f, forms: id.texts}
	all := id.signed(clues)
	for i := range all {
		if err := id.fit(f, &all[i]); err != nil {
			return p, err
		}
	}
	slices.SortStableFunc(all, func(a, b Candidate) int { return cmp.Compare(b.Score, a.Score) })
	if len(all) > 0 && all[0].Score >= enough && all[0].wanted >= leastWanted && all[0].placed >= leastPlaced {
		p.Best, all = &all[0], all[1:]
		for _, c := range all {
			if p.Best.Score-c.Score < closeBy {
				p.Close = append(p.Close, c.Layout)
			}
		}
	}
	p.Others = all[:min(len(all), runnersUp)]
	return p, nil
}

// signed gives the layouts with a sign. Those with far fewer than the best are
// left out: a project that needs a framework is not a bare one in its language.
func (id *Identifier) signed(clues *clues) []Candidate {
	var all []Candidate
	most := 0.0
	for _, s := range id.index {
		if s.Base {
			continue
		}
		c := Candidate{Layout: s.Name}
		for _, sign := range s.Signs {
			if evidence := clues.find(sign); evidence != "" {
				c.signs += weightOf(sign)
				c.Evidence = append(c.Evidence, evidence)
			}
		}
		c.signs = min(c.signs/enoughSigns, 1)
		most = max(most, c.signs)
		all = append(all, c)
	}
	return slices.DeleteFunc(all, func(c Candidate) bool { return c.signs == 0 || 2*c.signs < most })
}

// enoughSigns is the weight of signs that leaves nothing to ask for: what
// every project in a language has weighs less than what one framework has.
const enoughSigns = 4

func weightOf(s layout.Sign) float64 {
	if s.Text != nil {
		return 1
	}
	return 2
}

// fit pairs the start of the project with the layout and scores the outcome.
func (id *Identifier) fit(f *tree.Folder, c *Candidate) error {
	l, err := id.catalogue.Layout(c.Layout)
	if err != nil {
		return err
	}
	commonplace, err := id.catalogue.Commonplace()
	if err != nil {
		return err
	}
	r := match.Run(match.Input{Repository: id.repository, Top: f, Layout: l, Commonplace: commonplace, MostFolders: firstLook})
	c.wanted = 1
	if r.Wanted > 0 {
		c.wanted = float64(r.Found) / float64(r.Wanted)
	}
	explained := 0.0
	if r.Placed > 0 {
		explained = float64(r.Placed+r.Explained) / float64(r.Placed+r.Strays)
		// What the layout has a home for speaks for it, if less than what is at home.
		c.placed = (float64(r.Placed) + explainedWeight*float64(r.Explained)) / float64(r.Placed+r.Strays)
	}
	c.match = r
	c.Score = signsWeight*c.signs + wantedWeight*c.wanted + placedWeight*c.placed
	c.Evidence = append(c.Evidence, fmt.Sprintf("%d %% of what it wants is there, it explains %d %% of what is there", int(100*c.wanted), int(100*explained)))
	return nil
}

// clues answers questions about signs in one folder, each file read once.
type clues struct {
	repository *tree.Repository
	folder     *tree.Folder
	forms      []fileForm
	files      map[string][]string // by the pattern of a text sign, once one is asked for
	needs      map[string]string   // dependency to the manifest that names it
	texts      map[string]string
}

// find gives what was found of a sign, for people, or "".
func (c *clues) find(s layout.Sign) string {
	switch {
	case s.Has != "":
		for i := range c.folder.Nodes {
			n := &c.folder.Nodes[i]
			if ok, _ := path.Match(s.Has, n.Name); ok && n.Folder == nil && !n.Ignored {
				return "it has " + n.Name
			}
		}
	case s.Needs != "":
		if c.needs == nil {
			c.readManifests()
		}
		if file, ok := c.needs[strings.ToLower(s.Needs)]; ok {
			return file + " needs " + s.Needs
		}
	case s.Text != nil:
		return c.findText(s.Text)
	}
	return ""
}

func (c *clues) readManifests() {
	c.needs = map[string]string{}
	for i := range c.folder.Nodes {
		n := &c.folder.Nodes[i]
		if n.Kind != tree.File || n.Ignored || !manifest.Is(n.Name) {
			continue
		}
		for _, need := range manifest.Needs(n.Name, []byte(c.text(c.folder.Path()+n.Name))) {
			if _, known := c.needs[need]; !known {
				c.needs[need] = n.Name
			}
		}
	}
}

// How far and how much a text sign looks.
const (
	textDepth = 6
	textFiles = 200
	textNames = 5000 // names looked at, whether they fit or not
)

func (c *clues) findText(s *layout.TextSign) string {
	if c.files == nil {
		c.files = map[string][]string{}
		names := textNames
		c.gather(c.folder, 0, &names)
	}
	for _, at := range c.files[s.File] {
		if strings.Contains(c.text(at), s.Has) {
			return strings.TrimPrefix(at, c.folder.Path()) + " has " + strings.TrimSpace(s.Has)
		}
	}
	return ""
}

// gather notes the files that any text sign asks about, in one pass for all
// signs: those of a folder before those below it.
func (c *clues) gather(f *tree.Folder, depth int, names *int) {
	for i := range f.Nodes {
		n := &f.Nodes[i]
		if *names--; n.Kind != tree.File || n.Ignored || *names < 0 {
			continue
		}
		for k := range c.forms {
			form := &c.forms[k]
			if form.fits(n.Name) && len(c.files[form.pattern]) < textFiles {
				c.files[form.pattern] = append(c.files[form.pattern], f.Path()+n.Name)
			}
		}
	}
	for i := range f.Nodes {
		if n := &f.Nodes[i]; n.Folder != nil && !n.Ignored && depth < textDepth && *names > 0 {
			c.gather(n.Folder, depth+1, names)
		}
	}
}

// A fileForm is the name pattern of a text sign.
type fileForm struct {
	pattern string
	ending  string // where the pattern is "*" and this
	open    bool   // it is no exact name
}

func addForm(all []fileForm, pattern string) []fileForm {
	if slices.ContainsFunc(all, func(f fileForm) bool { return f.pattern == pattern }) {
		return all
	}
	return append(all, fileForm{pattern: pattern, ending: endingOf(pattern), open: isPattern(pattern)})
}

func (f *fileForm) fits(name string) bool {
	switch {
	case f.ending != "":
		return strings.HasSuffix(name, f.ending)
	case f.open:
		ok, _ := path.Match(f.pattern, name)
		return ok
	}
	return name == f.pattern
}

func (c *clues) text(path string) string {
	if text, ok := c.texts[path]; ok {
		return text
	}
	if c.texts == nil {
		c.texts = map[string]string{}
	}
	text, _ := c.repository.Text(path)
	c.texts[path] = string(text)
	return c.texts[path]
}
