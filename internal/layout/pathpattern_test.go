package layout

import "testing"

func TestPathPattern(t *testing.T) {
	var env *Env
	bound := env.Bind("project", "ferry")
	for _, c := range []struct {
		pattern, path string
		env           *Env
		fits          bool
		captured      string // of area
	}{
		{"a/b.py", "a/b.py", nil, true, ""}, {"a/b.py", "a/c/b.py", nil, false, ""}, {"a/", "a", nil, true, ""}, {"a/", "a/", nil, true, ""},
		{"**/*.py", "x.py", nil, true, ""}, {"**/*.py", "a/b/x.py", nil, true, ""}, {"**/*.py", "a/b/x.pyc", nil, false, ""},
		{"a/**", "a/b/c", nil, true, ""}, {"a/**", "a", nil, true, ""}, {"a/**", "b/c", nil, false, ""}, {"a/**/b", "a/b", nil, true, ""}, {"a/**/b", "a/x/y/b", nil, true, ""},
		{"<project>/<area>/views.py", "ferry/tides/views.py", bound, true, "tides"}, {"<project>/<area>/views.py", "other/tides/views.py", bound, false, ""},
		{"<area:pascal>View.cs", "BerthPlansView.cs", env.Bind("area", "berth_plans"), true, "berth_plans"}, {"<area:pascal>View.cs", "TidesView.cs", env.Bind("area", "berth_plans"), false, ""},
		{"<area>/<area>.py", "tides/tides.py", nil, true, "tides"}, {"<area>/<area>.py", "tides/crews.py", nil, false, ""},
	} {
		p, err := ParsePath(c.pattern)
		if err != nil {
			t.Fatal(err)
		}
		got, ok := p.Match(c.path, c.env)
		area, _ := got.Get("area")
		if ok != c.fits || ok && area != c.captured {
			t.Errorf("%s, %s: %v, %q", c.pattern, c.path, ok, area)
		}
	}
	for _, bad := range []string{"../a", "a//b", "a/<b", "/a", "a/***/b"} {
		if _, err := ParsePath(bad); err == nil {
			t.Errorf("%s is taken", bad)
		}
	}
}

func TestFillText(t *testing.T) {
	var env *Env
	env = env.Bind("area", "berth_plans").Bind("project", "ferry")
	if got := FillText(`<project>.<area:pascal>("/<area:kebab>", <other>, a < b)`, env); got != `ferry.BerthPlans("/berth-plans", <other>, a < b)` {
		t.Error(got)
	}
}
