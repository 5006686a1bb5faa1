package realign

import (
	"path"
	"slices"
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/changes"
	"dicaxon/internal/edit"
	"dicaxon/internal/refs"
)

// A following is a move with the project before, and what changes in it.
type following struct{ name, moves, before, want string }

// followings are moves in small projects, each with what its files say afterwards. What is
// in "want" is every file that changes, under its new name.
var followings = []following{
	{"Python: a module goes into a package", "ferry/berths.py ferry/areas/berths.py", `
-- ferry/__init__.py --
-- ferry/areas/__init__.py --
-- ferry/berths.py --
from ferry import tides
from .tides import table
-- ferry/tides.py --
table = 1
-- ferry/views.py --
from ferry.berths import card
from ferry import berths, tides
from . import berths as quay
import ferry.berths
print(ferry.berths.card)
text = "see ferry/berths.py and ferry.berths"
-- tests/test_berths.py --
from unittest.mock import patch
with patch("ferry.berths.card"):
    pass
-- pyproject.toml --
[project.scripts]
berths = "ferry.berths:main"
`, `
-- ferry/areas/berths.py --
from ferry import tides
from ..tides import table
-- ferry/views.py --
from ferry.areas.berths import card
from ferry.areas import berths
from ferry import tides
from .areas import berths as quay
import ferry.areas.berths
print(ferry.areas.berths.card)
text = "see ferry/berths.py and ferry.berths"
-- tests/test_berths.py --
from unittest.mock import patch
with patch("ferry.areas.berths.card"):
    pass
-- pyproject.toml --
[project.scripts]
berths = "ferry.areas.berths:main"
`},
	{"Python: a package gets another name", "ferry/berths/ ferry/piers/", `
-- ferry/__init__.py --
from ferry import berths
from ferry.berths import views
-- ferry/berths/__init__.py --
-- ferry/berths/views.py --
from . import models
from ferry.berths.models import Berth
-- ferry/berths/models.py --
Berth = 1
`, `
-- ferry/__init__.py --
from ferry import piers as berths
from ferry.piers import views
-- ferry/piers/views.py --
from . import models
from ferry.piers.models import Berth
`},
	{"Python: a module gets another name", "ferry/berths.py ferry/piers.py", `
-- ferry/__init__.py --
-- ferry/berths.py --
from . import berths
card = berths
-- ferry/tides.py --
from . import berths
from . import berths as quay
from .berths import card
table = berths.card
`, `
-- ferry/piers.py --
from . import piers as berths
card = berths
-- ferry/tides.py --
from . import piers as berths
from . import piers as quay
from .piers import card
table = berths.card
`},
	{"JavaScript: without endings, an index, an alias", "src/berths/ src/areas/berths/", `
-- package.json --
{"name": "ferry", "main": "src/berths/index.js"}
-- tsconfig.json --
{"compilerOptions": {"baseUrl": ".", "paths": {"@/*": ["src/*"]}}}
-- src/berths/index.js --
export { card } from './card'
import { tide } from '../tides.js'
-- src/berths/card.js --
export const card = 1
-- src/tides.js --
import { card } from './berths/card'
import * as berths from './berths'
import '@/berths/card.js'
export const tide = 1
`, `
-- package.json --
{"name": "ferry", "main": "src/areas/berths/index.js"}
-- src/areas/berths/index.js --
export { card } from './card'
import { tide } from '../../tides.js'
-- src/tides.js --
import { card } from './areas/berths/card'
import * as berths from './areas/berths'
import '@/areas/berths/card.js'
export const tide = 1
`},
	{"Go: a package gets another folder and name", "internal/berth/ internal/harbour/pier/", `
-- go.mod --
module gannet.example/ferry
-- internal/berth/berth.go --
package berth

func Card() {}
-- internal/berth/berth_test.go --
package berth_test

import "gannet.example/ferry/internal/berth"

var _ = berth.Card
-- main.go --
package main

import "gannet.example/ferry/internal/berth"

func main() { berth.Card() }
-- tide.go --
package main

import quay "gannet.example/ferry/internal/berth"

var pier = quay.Card
`, `
-- internal/harbour/pier/berth.go --
package pier

func Card() {}
-- internal/harbour/pier/berth_test.go --
package pier_test

import "gannet.example/ferry/internal/harbour/pier"

var _ = pier.Card
-- main.go --
package main

import "gannet.example/ferry/internal/harbour/pier"

func main() { pier.Card() }
-- tide.go --
package main

import quay "gannet.example/ferry/internal/harbour/pier"

var pier = quay.Card
`},
	{"Java: a class leaves its package", "src/main/java/line/ferry/Berth.java src/main/java/line/ferry/berths/Berth.java", `
-- src/main/java/line/ferry/Berth.java --
package line.ferry;

public class Berth { Tide tide; }
-- src/main/java/line/ferry/Tide.java --
package line.ferry;

import java.util.List;

public class Tide { List<Berth> berths; }
-- src/main/java/line/crew/Crew.java --
package line.crew;

import line.ferry.Berth;

class Crew { Berth at; }
-- src/main/resources/beans.xml --
<bean class="line.ferry.Berth"/>
`, `
-- src/main/java/line/ferry/berths/Berth.java --
package line.ferry.berths;

import line.ferry.Tide;

public class Berth { Tide tide; }
-- src/main/java/line/ferry/Tide.java --
package line.ferry;

import java.util.List;
import line.ferry.berths.Berth;

public class Tide { List<Berth> berths; }
-- src/main/java/line/crew/Crew.java --
package line.crew;

import line.ferry.berths.Berth;

class Crew { Berth at; }
-- src/main/resources/beans.xml --
<bean class="line.ferry.berths.Berth"/>
`},
}

// movesOf reads moves that are written as paths by twos.
func movesOf(text string) (all []changes.Move) {
	words := strings.Fields(text)
	for i := 0; i < len(words); i += 2 {
		all = append(all, changes.Move{From: words[i], To: words[i+1]})
	}
	return all
}

func TestFollow(t *testing.T) {
	for _, c := range slices.Concat(followings, moreFollowings, divisions) {
		t.Run(c.name, func(t *testing.T) {
			tree := Texts{}
			for _, f := range txtar.Parse([]byte(c.before)).Files {
				tree[f.Name] = f.Data
			}
			p := &changes.Plan{Moves: movesOf(c.moves)}
			edits, remarks := Follow(refs.NewGraph(tree), tree, nil, p)
			for _, r := range remarks {
				t.Errorf("left: %s:%d %s", r.Path, r.Line, r.Says)
			}
			got := map[string]string{}
			for at, all := range edit.ByFile(edits) {
				made, err := edit.Apply(tree[at], all)
				if err != nil {
					t.Error(err)
				}
				got[p.After(at)] = string(made)
				if path.Ext(at) == ".go" && formatted(tree[at]) && !formatted(made) {
					t.Errorf("%s is not as gofmt writes it:\n%s", at, made)
				}
			}
			for _, f := range txtar.Parse([]byte(c.want)).Files {
				if text, changed := got[f.Name]; !changed {
					if text = string(tree[p.Back().After(f.Name)]); text != string(f.Data) {
						t.Errorf("%s stays\n%s", f.Name, text)
					}
				} else if text != string(f.Data) {
					t.Errorf("%s becomes\n%s\nand not\n%s", f.Name, text, f.Data)
				}
				delete(got, f.Name)
			}
			for at, text := range got {
				t.Errorf("%s becomes\n%s", at, text)
			}
		})
	}
}
