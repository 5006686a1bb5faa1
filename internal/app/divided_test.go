package app_test

import (
	"fmt"
	"maps"
	"slices"
	"strings"
	"testing"

	"dicaxon/internal/app"
	"dicaxon/internal/changes"
	"dicaxon/internal/finding"
	"dicaxon/internal/realign"
	"dicaxon/internal/treetest"
)

// byRouters is a project whose routes are apart, and whose data of all units are in two files.
const byRouters = `-- app/__init__.py --
-- app/crud.py --
from app.schemas import Crew, Tide


def get_crew(n):
    return Crew(since=n)


def list_crews():
    return [get_crew(1)]


def tide_at(hour):
    return Tide(at=hour)
-- app/main.py --
from fastapi import FastAPI

from app.routers import crews, tides

app = FastAPI()
app.include_router(crews.router)
app.include_router(tides.router)
-- app/routers/__init__.py --
-- app/routers/crews.py --
from fastapi import APIRouter

from app.crud import get_crew
from app.schemas import Crew

router = APIRouter()
-- app/routers/tides.py --
from fastapi import APIRouter

from app.crud import tide_at
from app.schemas import Tide

router = APIRouter()
-- app/schemas.py --
from datetime import date, time

from pydantic import BaseModel


class Crew(BaseModel):
    since: date


class CrewNew(Crew):
    name: str


class Tide(BaseModel):
    at: time
-- requirements.txt --
fastapi
`

// TestDivided: what several units have in one file is taken apart where a project is brought to another layout, the
// smaller parts into files of their own, the rest by moving the file; what somebody leaves stays; what would not
// be clean is told by lines.
func TestDivided(t *testing.T) {
	for name, c := range map[string]struct {
		to, more    string // beside byRouters, or instead of it for another framework
		wants       func(n int, g *realign.Group) bool
		parts, left string
		after       string
	}{
		"a base that all share": {"fastapi/areas", `-- app/schemas.py --
from pydantic import BaseModel


class Base(BaseModel):
    pass


class Crew(Base):
    name: str


class Tide(Base):
    at: int
`, nil, "app/crud.py#tide_at app/schemas.py#Crew app/schemas.py#Tide", "", `-- app/schemas.py --
from pydantic import BaseModel


class Base(BaseModel):
    pass
-- app/tides/schemas.py --
from app.schemas import Base


class Tide(Base):
    at: int
`},
		"all": {"fastapi/areas", "", nil, "app/crud.py#tide_at app/schemas.py#Tide", "", `-- app/crews/crud.py --
from app.crews.schemas import Crew


def get_crew(n):
    return Crew(since=n)


def list_crews():
    return [get_crew(1)]
-- app/crews/schemas.py --
from datetime import date

from pydantic import BaseModel


class Crew(BaseModel):
    since: date


class CrewNew(Crew):
    name: str
-- app/tides/crud.py --
from app.tides.schemas import Tide


def tide_at(hour):
    return Tide(at=hour)
-- app/tides/router.py --
from fastapi import APIRouter

from app.tides.crud import tide_at
from app.tides.schemas import Tide

router = APIRouter()
-- app/tides/schemas.py --
from datetime import time

from pydantic import BaseModel


class Tide(BaseModel):
    at: time
`},
		"one part": {"fastapi/areas", "", func(n int, g *realign.Group) bool { return g.Part != "tide_at" }, "app/schemas.py#Tide", "", `-- app/crud.py --
from app.tides.schemas import Tide
from app.crews.schemas import Crew


def get_crew(n):
    return Crew(since=n)


def list_crews():
    return [get_crew(1)]


def tide_at(hour):
    return Tide(at=hour)
-- app/tides/router.py --
from fastapi import APIRouter

from app.crud import tide_at
from app.tides.schemas import Tide

router = APIRouter()
`},
		"routes of several blueprints": {"flask/areas", `-- ferry/__init__.py --
from flask import Flask

from ferry.views import crews, tides_bp


def create_app():
    app = Flask(__name__)
    app.register_blueprint(crews)
    app.register_blueprint(tides_bp)
    return app
-- ferry/views.py --
from flask import Blueprint, abort

crews = Blueprint('crews', __name__)
tides_bp = Blueprint('tides', __name__)


@crews.route('/crews')
def everybody():
    return []


@crews.route('/crews/<n>')
def one(n):
    abort(404)


@tides_bp.route('/tides')
def table():
    return []
-- requirements.txt --
flask
`, nil, "ferry/views.py#tides_bp,table", "", `-- ferry/__init__.py --
from flask import Flask

from ferry.tides.views import tides_bp
from ferry.crews.views import crews


def create_app():
    app = Flask(__name__)
    app.register_blueprint(crews)
    app.register_blueprint(tides_bp)
    return app
-- ferry/crews/views.py --
from flask import Blueprint, abort

crews = Blueprint('crews', __name__)


@crews.route('/crews')
def everybody():
    return []


@crews.route('/crews/<n>')
def one(n):
    abort(404)
-- ferry/tides/views.py --
from flask import Blueprint


tides_bp = Blueprint('tides', __name__)


@tides_bp.route('/tides')
def table():
    return []
`},
		"two that need each other": {"fastapi/areas", `-- app/crud.py --
def get_crew(n):
    return tide_at(n)


def tide_at(hour):
    return hour or get_crew(1)
`, nil, "app/schemas.py#Tide", "app/crud.py:1 lines 1 to 2 are reading and writing of crews; to be cut by hand: they would import each other|app/crud.py:5 lines 5 to 6 are reading and writing of tides; to be cut by hand: they would import each other", `-- app/tides/schemas.py --
from datetime import time

from pydantic import BaseModel


class Tide(BaseModel):
    at: time
`},
	} {
		t.Run(name, func(t *testing.T) {
			files := filesIn(c.more)
			if c.to == "fastapi/areas" {
				files = filesIn(byRouters, c.more)
			}
			root := treetest.Make(t, files)
			o := app.RealignOptions{Options: app.Options{Layout: c.to}, Least: finding.Warning, Findings: true, Wants: c.wants}
			r, err := app.Realign(t.Context(), root, o)
			if err != nil {
				t.Fatal(err)
			}
			var parts, left []string
			for _, g := range r.Groups {
				if g.Part != "" {
					parts = append(parts, g.Path+"#"+g.Part)
				}
			}
			for _, l := range r.Left {
				if why, _, _ := strings.Cut(l.Why, ": get_crew"); l.Part != "" {
					why, _, _ = strings.Cut(why, ": tide_at")
					left = append(left, fmt.Sprintf("%s:%d %s; %s", l.Path, l.Line, l.Says, why))
				}
			}
			if slices.Sort(parts); strings.Join(parts, " ") != c.parts || strings.Join(left, "|") != c.left {
				t.Errorf("parts %q\nleft %q", parts, left)
			}
			before := texts(t, root)
			record, err := r.Plan.Plan.Write(t.Context(), root, realigning)
			if err != nil {
				t.Fatal(err)
			}
			holds(t, texts(t, root), c.after)
			if again, err := app.Realign(t.Context(), root, o); c.wants == nil && (err != nil || !again.Plan.Empty()) {
				t.Errorf("a second time: %v", again.Plan.Groups)
			}
			if _, err := changes.Undo(t.Context(), root, false); err != nil || record == nil || !maps.Equal(texts(t, root), before) {
				t.Errorf("taken back, it is not as it was: %v", err)
			}
		})
	}
}
