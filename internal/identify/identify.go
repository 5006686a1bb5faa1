// Package identify finds the projects of a repository and the layouts that
// they follow: by signs first, which an index holds, then by how well the tree
// of each layout that is left fits.
package identify

import (
	"cmp"
	"fmt"
	"math"
	"path"
	"slices"
	"strings"
	"sync"

	"dicaxon/internal/catalogue"
	"dicaxon/internal/finding"
	"dicaxon/internal/layout"
	"dicaxon/internal/manifest"
	"dicaxon/internal/placement"
	"dicaxon/internal/reconcile"
	"dicaxon/internal/tree"
)

// A Candidate is a layout that a project may follow.
type Candidate struct {
	Layout    string
	Score     float64  // from 0 to 1
	Evidence  []string // what speaks for it
	signs     float64  // weight of the signs
	general   bool
	wanted    float64 // share of the wanted entries that are there
	placed    float64 // share of what is there that has a place
	lacks     int     // how much is not there that must be
	sends     int     // how many files it would have in folders that are not there, where they are several
	placement *placement.Placement
}

// A Root is a folder that looks like a project.
type Root struct {
	At     string      // below the repository's root, "." for that itself
	Best   *Candidate  // nil where none is known
	Others []Candidate // runners-up, the nearest first
	// Close names the runners-up that fit almost as well as the best.
	Close []string
	// Framework names a framework that the project needs and that no layout is
	// for, or is for in this form.
	Framework string
	Folder    *tree.Folder
}

// The weights of a score, and what it must reach.
const (
	signsWeight  = 0.20
	wantedWeight = 0.40
	placedWeight = 0.40
	enough       = 0.60
	leastWanted  = 0.50 // share of the wanted entries without which a layout is only near
	leastPlaced  = 0.40 // share of what is there that must have a place in it
	closeBy      = 0.03

	explainedWeight = 0.7 // of a stray with a home, against something in its place
	enoughSigns     = 4   // the weight of signs that leaves nothing to ask for
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
	index      *catalogue.Index
	asked
}

// asked is what the signs of all layouts ask about.
type asked struct {
	known   nameSet    // files by which projects are known
	folders nameSet    // patterns of folders that all projects of a layout have
	texts   []fileForm // the files that text signs ask about, each pattern once
}

// New makes an Identifier. Its Watch goes with the reading of the repository
// that Roots is then given.
func New(c catalogue.Catalogue) *Identifier {
	return &Identifier{catalogue: c, index: c.Index(), asked: ask()}
}

// ask gathers it once: the root of the repository is looked for by it, and what is in it.
var ask = sync.OnceValue(func() (a asked) {
	for _, s := range (catalogue.Catalogue{}).Index().Layouts {
		for _, sign := range s.Signs {
			for _, one := range sign.AnyOf() {
				switch name, folder := strings.CutSuffix(one, "/"); {
				case sign.Never: // what speaks against one makes no project
				case !folder:
					a.known.add(one)
				case sign.Must && isPattern(name):
					a.folders.add(name)
				}
			}
			if sign.Text != nil {
				a.texts = addForm(a.texts, sign.Text.File)
			}
		}
	}
	for _, name := range manifest.Names() {
		a.known.add(name)
	}
	return a
})

// Watch says whether projects are known by a file of that name.
func (id *Identifier) Watch(name string) bool { return id.known.has(name) }

// look weighs every layout with a sign in the folder. The second is taken where
// the first does not fit.
func (id *Identifier) look(f *tree.Folder) (Root, error) {
	p := Root{At: cmp.Or(strings.TrimSuffix(f.Path(), "/"), "."), Folder: f}
	clues := &clues{repository: id.repository, folder: f, forms: id.texts}
	frameworks := id.frameworks(clues)
	all := id.signed(clues, frameworks)
	for i := range all {
		if err := id.fit(f, &all[i]); err != nil {
			return p, err
		}
	}
	slices.SortStableFunc(all, func(a, b Candidate) int {
		// A project of a framework is not a bare one of its language.
		if a.general != b.general && a.fits() && b.fits() {
			if a.general {
				return 1
			}
			return -1
		}
		// Of two that fit alike, the one with more signs says more.
		if math.Abs(a.Score-b.Score) < closeBy {
			return cmp.Or(cmp.Compare(b.signs, a.signs), cmp.Compare(a.sends, b.sends), cmp.Compare(b.Score, a.Score))
		}
		return cmp.Compare(b.Score, a.Score)
	})
	for i := range all {
		if all[i].fits() {
			best := all[i]
			p.Best, all = &best, slices.Delete(all, i, i+1)
			break
		}
	}
	if p.Best != nil {
		for _, c := range all {
			if p.Best.Score-c.Score < closeBy && c.general == p.Best.general && c.signs >= p.Best.signs && c.fits() {
				p.Close = append(p.Close, c.Layout)
			}
		}
	} else if len(frameworks) > 0 {
		p.Framework = frameworks[0].Name
	}
	p.Others = all[:min(len(all), runnersUp)]
	return p, nil
}

// enoughOfAMember is what share of the wanted must be there for a folder that the layout
// around it describes to be a project of its own.
const enoughOfAMember = 0.95

// fits says whether the layout may be taken for the project's.
func (c *Candidate) fits() bool {
	return c.Score >= enough && c.wanted >= leastWanted && c.placed >= leastPlaced && !c.unlike()
}

// unlike says whether a layout that no framework speaks for lacks several of what it must have.
func (c *Candidate) unlike() bool { return c.general && c.lacks > 1 }

// A framework is one that a project needs, with the manifest that says so, "" where a
// file of its own does.
type framework struct {
	catalogue.Framework
	manifest string
}

// frameworks returns those that the project needs.
func (id *Identifier) frameworks(clues *clues) []framework {
	var all []framework
	for _, fw := range id.index.Frameworks {
		in := ""
		found := slices.ContainsFunc(fw.Needs, func(need string) bool { in = clues.needed(need); return in != "" }) ||
			slices.ContainsFunc(fw.Has, func(has string) bool { return clues.find(layout.Sign{Has: has}) != "" })
		if found {
			all = append(all, framework{fw, in})
		}
	}
	return all
}

// signed gives the layouts that have a sign of their own and all that they must
// have, and that no framework bars.
func (id *Identifier) signed(clues *clues, frameworks []framework) []Candidate {
	var all []Candidate
next:
	for _, s := range id.index.Layouts {
		if s.Base || barred(layout.Family(s.Name), forOthersThan(s.Signs, frameworks)) {
			continue
		}
		c := Candidate{Layout: s.Name, general: s.General}
		own, asked, one := false, false, false
		for _, sign := range s.Signs {
			evidence := clues.find(sign)
			if sign.Never && evidence != "" || sign.Must && evidence == "" {
				continue next
			}
			asked, one = asked || sign.One, one || sign.One && evidence != ""
			if evidence != "" {
				c.signs += weightOf(sign)
				c.Evidence = append(c.Evidence, evidence)
				own = own || layout.Family(sign.From) == layout.Family(s.Name)
			}
		}
		if own && (one || !asked) {
			all = append(all, c)
		}
	}
	return all
}

// ofPages is the manifest of what a browser gets; a framework of another language may have it
// beside its own.
const ofPages = "package.json"

// forOthersThan gives the frameworks that say something of a layout with these signs: one that is known by the
// manifest of another language has its own beside what its pages are made with.
func forOthersThan(signs []layout.Sign, frameworks []framework) []framework {
	if !slices.ContainsFunc(signs, func(s layout.Sign) bool { return s.Must && s.Has != ofPages && manifest.Is(s.Has) }) {
		return frameworks
	}
	return slices.DeleteFunc(slices.Clone(frameworks), func(f framework) bool { return f.manifest == ofPages })
}

// barred says whether a framework that the project needs has other layouts, or
// none. What the pages of a framework of another language are made with bars nothing of it.
func barred(family string, frameworks []framework) bool {
	served := slices.ContainsFunc(frameworks, func(f framework) bool {
		return f.manifest != "" && f.manifest != ofPages && slices.Contains(f.Families, family)
	})
	return slices.ContainsFunc(frameworks, func(f framework) bool {
		return !slices.Contains(f.Families, family) && !(served && f.manifest == ofPages)
	})
}

// weightOf says how much a sign says: a dependency more than a file, a file more
// than a folder or a text that many projects have.
func weightOf(s layout.Sign) float64 {
	switch {
	case s.Needs != "":
		return 3
	case s.Text != nil && s.One, s.Has != "" && !strings.HasSuffix(s.AnyOf()[0], "/"):
		return 2
	}
	return 1
}

// Lacks says what every project of a built-in layout has, in words: a dependency that no manifest of the folder
// names, though there is one, or a text for which the folder has not even a file; "" where it has that, where
// another dependency that the layout is known by is there (what is lacked comes with the change), or where the
// layout is no built-in one.
func Lacks(c catalogue.Catalogue, r *tree.Repository, f *tree.Folder, name string) (lacks string) {
	id := New(c)
	i := slices.IndexFunc(id.index.Layouts, func(s catalogue.Summary) bool { return s.Name == name })
	if i < 0 {
		return ""
	}
	clues := &clues{repository: r, folder: f, forms: id.texts}
	for _, sign := range id.index.Layouts[i].Signs {
		switch found := clues.find(sign) != ""; {
		case found && sign.Needs != "" && !sign.Never:
			return ""
		case found, !sign.Must, lacks != "":
		case sign.Needs != "" && len(clues.needs) > 0:
			lacks = "needs " + sign.Needs
		case sign.Text != nil && len(clues.files[sign.Text.File]) == 0: // no file is of its language
			lacks = fmt.Sprintf("has %s in a file %s", strings.TrimSpace(sign.Text.Has), sign.Text.File)
		}
	}
	return lacks
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
	p := placement.Pair(placement.Input{Repository: id.repository, Top: f, Layout: placement.For(id.repository, f, l), Commonplace: commonplace, MostFolders: firstLook})
	r := reconcile.Run(p)
	c.placement = p
	c.lacks, c.sends = lacked(p, r), sent(p, r)
	c.wanted = share(float64(p.Found+r.Filled), float64(p.Wanted), 1)
	c.weighUp(float64(p.Settled), weigh(p.Strays), weigh(r.Explained))
	return nil
}

// lacked counts what must be there, and nothing that strays can be.
func lacked(p *placement.Placement, r *reconcile.Result) (n int) {
	for i := range p.Gaps {
		if p.Gaps[i].Entry.Need == layout.Must {
			n++
		}
	}
	return max(0, n-r.Filled)
}

// sent counts the files that belong in folders of which there is none yet: where there are several, the project
// has them otherwise.
func sent(p *placement.Placement, r *reconcile.Result) (n int) {
	for i := range r.Findings {
		f := &r.Findings[i]
		home := strings.TrimSuffix(f.Home, "/")
		if in := path.Dir(home); f.Kind == finding.Misplaced && home != "" && in != "." && p.Repository.Top.At(in) == nil {
			n++
		}
	}
	if n == 1 {
		return 0 // one alone is a slip
	}
	return n
}

// weighUp gives the score by what is settled, what strays, and what of that has a
// home.
func (c *Candidate) weighUp(settled, strays, explained float64) {
	explained = min(explained, strays)
	c.placed = share(settled+explainedWeight*explained, settled+strays, 0)
	c.Score = signsWeight*min(c.signs/enoughSigns, 1) + wantedWeight*c.wanted + placedWeight*c.placed
	c.Evidence = append(c.Evidence, fmt.Sprintf("%d %% of what it wants is there, it explains %d %% of what is there",
		int(100*c.wanted), int(100*share(settled+explained, settled+strays, 0))))
}

// share gives a part of a whole, from 0 to 1; otherwise where there is no whole.
func share(part, whole, otherwise float64) float64 {
	if whole == 0 {
		return otherwise
	}
	return min(part/whole, 1)
}

// weigh says how much strays count against a layout. A folder full of files that
// it does not know, such as data for tests, counts as more than one file, but
// not as all of them.
func weigh(strays []placement.Stray) float64 {
	sum := 0.0
	for i := range strays {
		f := strays[i].Node().Folder
		switch {
		case f == nil:
			sum++
		case asides[strings.ToLower(f.Name)]:
			sum += 0.5
		default:
			sum += min(1+math.Sqrt(float64(placement.Count(f)))/4, 3)
		}
	}
	return sum
}
