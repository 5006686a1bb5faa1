package app_test

import (
	"strings"
	"testing"

	"golang.org/x/tools/txtar"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/treetest"
)

// filesIn gives the files of text archives, of which a later one replaces what an earlier one has.
func filesIn(archives ...string) map[string]string {
	all := map[string]string{}
	for _, archive := range archives {
		for _, f := range txtar.Parse([]byte(archive)).Files {
			all[f.Name] = string(f.Data)
		}
	}
	return all
}

// holds says where files differ from those of an archive.
func holds(t *testing.T, now map[string]string, archive string) {
	t.Helper()
	for at, text := range filesIn(archive) {
		if got, there := now[at]; got != text || !there {
			t.Errorf("%s becomes\n%s\nand not\n%s", at, got, text)
		}
	}
}

// cuts are declarations that are taken out of files, by what that says.
type cuts map[string]struct{ before, from, to, after, why string }

// tried takes each out, and compares the files afterwards, or why that is not done.
func (all cuts) tried(t *testing.T) {
	for name, c := range all {
		t.Run(name, func(t *testing.T) {
			root := treetest.Make(t, filesIn(c.before))
			r, err := app.Realign(t.Context(), root, app.RealignOptions{Least: finding.Warning, Moves: []changes.Move{{From: c.from, To: c.to}}})
			if c.why != "" {
				if err == nil || !strings.Contains(err.Error(), c.why) {
					t.Errorf("%v, not %q", err, c.why)
				}
				return
			}
			if err != nil {
				t.Fatal(err)
			}
			if _, err := r.Plan.Plan.Write(t.Context(), root, realigning); err != nil {
				t.Fatal(err)
			}
			holds(t, texts(t, root), c.after)
		})
	}
}

const shapes = `-- app/__init__.py --
-- app/all.py --
from app.shapes import Crew, Tide
-- app/base.py --
class Base:
    pass
-- app/crews.py --
from app.shapes import Crew

print(Crew)
-- app/shapes.py --
"""Shapes of data."""
from datetime import date, time
import os

from .base import Base


def _day(at):
    return date(at)


# What a crew is.
@dataclass(
    frozen=True,
)
class Crew(Base):
    """
A crew
"""

    since: date = _day(1)


class Tide(Base):
    at: time
    of: "os.PathLike"


class Low(Tide):
    pass
-- app/tides.py --
from .shapes import Tide
-- app/whole.py --
from app import shapes

print(shapes.Tide)
-- requirements.txt --
pydantic
`

// TestCuts takes declarations out of files of Python: with the imports that they need, with those who use them, or
// with the old file handing them on; and says why where it would not be clean.
func TestCuts(t *testing.T) {
	t.Parallel()
	cuts{
		"a class, with what only it uses": {shapes, "app/shapes.py#Crew", "app/crew/shapes.py", `-- app/all.py --
from app.crew.shapes import Crew
from app.shapes import Tide
-- app/crew/__init__.py --
-- app/crew/shapes.py --
from datetime import date

from ..base import Base


def _day(at):
    return date(at)


# What a crew is.
@dataclass(
    frozen=True,
)
class Crew(Base):
    """
A crew
"""

    since: date = _day(1)
-- app/crews.py --
from app.crew.shapes import Crew

print(Crew)
-- app/shapes.py --
"""Shapes of data."""
from datetime import time
import os

from .base import Base


class Tide(Base):
    at: time
    of: "os.PathLike"


class Low(Tide):
    pass
`, ""},
		"a file into git's own": {shapes, "app/shapes.py", ".git/low.py", "", "is no path that may be written"},
		"a file out of it":      {shapes, "app/shapes.py", "../low.py", "", "is no path that may be written"},
		"a file that is there":  {shapes, "app/shapes.py#Crew", "app/base.py", "", "app/base.py is there already"},
		"a language that is not cut": {`-- Gemfile --
gem 'rails'
-- a.rb --
class A
end
`, "a.rb#A", "b.rb", "", "only files of Python, JavaScript, TypeScript and Go are"},
		"a name in a text": {`-- a.py --
class A:
    of: "B"


class B:
    pass
-- requirements.txt --
flask
`, "a.py#B", "b.py", "", "line 1 has \"B\" in a text"},
		"a route of what stays": {`-- app.py --
from routes import crews
-- requirements.txt --
flask
-- routes.py --
from flask import Blueprint

crews = Blueprint('crews', __name__)


@crews.get('/crews')
def crew_list():
    return []
`, "routes.py#crew_list", "list.py", "", "they would import each other"},
		"another language": {shapes, "app/shapes.py#Crew", "app/crew.js", "", "app/crew.js is of another language"},
		"into a folder": {shapes, "app/shapes.py#Low", "app/low/", `-- app/low/shapes.py --
from ..shapes import Tide


class Low(Tide):
    pass
`, ""},
		"nothing":               {shapes, "app/shapes.py#", "app/low.py", "", "behind the # stand the names"},
		"out of the repository": {shapes, "app/shapes.py#Low", "../low.py", "", "is no path that may be written"},
		"routes of what goes, and of what stays": {`-- app.py --
from routes import tides
-- requirements.txt --
flask
-- routes.py --
from flask import Blueprint

crews = Blueprint('crews', __name__)
tides = Blueprint('tides', __name__)


# Of crews.

@crews.get('/crews')
def crew_list():
    return []


@tides.get('/tides')
def tide_list():
    return []


@tides.post('/tides')
def tide_new():
    return tide_list()
`, "routes.py#tides,tide_list", "tides.py", `-- app.py --
from routes import tides
-- routes.py --
from flask import Blueprint
from tides import tide_list, tides

crews = Blueprint('crews', __name__)


# Of crews.

@crews.get('/crews')
def crew_list():
    return []


@tides.post('/tides')
def tide_new():
    return tide_list()
-- tides.py --
from flask import Blueprint


tides = Blueprint('tides', __name__)


@tides.get('/tides')
def tide_list():
    return []
`, ""},
		"several names for a checker": {`-- a.py --
A = 1
B = 2
C = A
-- b.py --
from a import (
    A,
    B as bee,
    C,
)
-- c.py --
from a import A, B  # noqa: F401
-- d.py --
def f():
    from a import A, B
    return A, B
-- requirements.txt --
flask
`, "a.py#B", "e.py", `-- a.py --
from e import B  # noqa: F401

A = 1
C = A
-- b.py --
from e import B as bee
from a import A, C
-- c.py --
from e import B  # noqa: F401
from a import A  # noqa: F401
-- d.py --
def f():
    from a import A, B
    return A, B
`, ""},
		"two that need each other": {`-- a.py --
class A:
    def b(self):
        return B()


class B(A):
    pass
-- requirements.txt --
flask
`, "a.py#B", "b.py", "", "they would import each other"},
		"what is looked for as a part": {shapes, "app/shapes.py#Lows", "app/low.py", "", "it declares no Lows; did you mean Low?"},
		"what is registered with others": {`-- admin.py --
from django.contrib import admin


class CrewAdmin:
    pass


class TideAdmin:
    pass


admin.site.register(1, CrewAdmin)
admin.site.register(2, TideAdmin)
-- requirements.txt --
django
-- use.py --
from admin import TideAdmin
`, "admin.py#TideAdmin", "tides.py", `-- admin.py --
from django.contrib import admin
from tides import TideAdmin


class CrewAdmin:
    pass


admin.site.register(1, CrewAdmin)
admin.site.register(2, TideAdmin)
-- tides.py --
class TideAdmin:
    pass
-- use.py --
from admin import TideAdmin
`, ""},
		"what is set beside others": {`-- a.py --
import os

low, high = 1, 2


def f():
    return os.name, high
-- requirements.txt --
flask
`, "a.py#f", "b.py", "", "uses high, which line 3 may set beside others"},
		"what the rest uses": {shapes, "app/shapes.py#Tide", "app/tide.py", `-- app/tides.py --
from .tide import Tide
`, ""},
		"what uses the rest": {shapes, "app/shapes.py#Low", "app/low.py", `-- app/low.py --
from .shapes import Tide


class Low(Tide):
    pass
`, ""},
	}.tried(t)
}
