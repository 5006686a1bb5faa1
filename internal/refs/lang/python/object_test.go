package python

import (
	"strings"
	"testing"
)

// TestObjectOf reads what objects have that a module makes of its own classes, each beside what may have anything.
func TestObjectOf(t *testing.T) {
	for what, c := range map[string]struct{ code, has, hasNot string }{
		"settings":         {"class Settings(BaseSettings):\n    model_config = SettingsConfigDict(env_file='.env')\n\n    tide_url: str\n    day: int = 1\n\n    @property\n    def whole(self):\n        return 1\n\n\nsettings = Settings()\n", "tide_url day whole model_dump", "crew"},
		"a plain class":    {"class Tides:\n    def __init__(self):\n        self.high: int = 1\n        self.low = 2\n\n    async def turn(self):\n        pass\n\n\nother = 1\nsettings: Tides = Tides()\n", "high low turn", "other"},
		"one on the top":   {"class Tides(object):\n\tday = 1\n\nsettings = Tides()\n", "day", "settings"},
		"one with remarks": {"class Tides:\n    day = 1\n# aside\n    low = 2\nsettings = Tides()\n", "day low", "aside"},
	} {
		has := ObjectOf([]byte(c.code), "settings")
		for _, name := range strings.Fields(c.has) {
			if !has.Has(name) {
				t.Errorf("%s: %s is not in it", what, name)
			}
		}
		if len(has) == 0 || has.Has(c.hasNot) {
			t.Errorf("%s: it may have %s", what, c.hasNot)
		}
	}
	for what, code := range map[string]string{
		"a class of others":      "class Tides(Base):\n    day = 1\n\nsettings = Tides()\n",
		"what a call gives":      "def make():\n    return 1\n\nsettings = make()\n",
		"one of two":             "class A:\n    day = 1\n\nsettings = A()\nsettings = B()\n",
		"one that asks for more": "class A:\n    day = 1\n    def __getattr__(self, name):\n        return 1\n\nsettings = A()\n",
		"one that may have more": "class A(BaseSettings):\n    model_config = SettingsConfigDict(extra=\"allow\")\n    day: int\n\nsettings = A()\n",
		"no object":              "settings = {}\n",
	} {
		if has := ObjectOf([]byte(code), "settings"); len(has) > 0 {
			t.Errorf("%s: it is read", what)
		}
	}
}
