package python

import (
	"regexp"
	"testing"
)

// TestDynamic holds the words that are looked for one by one against one expression for them all.
func TestDynamic(t *testing.T) {
	whole := regexp.MustCompile(`\b(?:__getattr__|globals|vars|setattr|exec|eval|locals|sys\.modules|meta_path|__path__|__import__|import_module|extend_path|global_enum|_convert_|lazy\w*|_lazy\w*|attach)\b|import\s*\*|import\s*\(\s*\*`)
	is := 0
	for _, text := range []string{
		"", "import os\n", "from a import *\n", "from a import(*\n", "from a import (\n    *\n", "from a import\t*", "from a import b, *", "important * 2", "a.reimport*2",
		"globals()['x'] = 1", "global x", "globalss()", "aglobals()", "x.globals", "vars", "varsity", "canvas", "setattr(x, 'y', 1)", "evaluate()", "eval('x')", "retrieval", "exec", "execute()",
		"sys.modules[__name__] = x", "sys_modules", "osys.modules", "__getattr__", "__getattribute__", "def __getattr__(name):", "__path__", "a__path__", "lazy", "lazy_loader", "_lazy", "_lazy_import",
		"my_lazy", "blazy", "importlib.import_module('a')", "import_modules", "attach", "attached", "detach", "locals()", "locale", "enum.global_enum", "_convert_", "convert_", "_convert_it", "ende mit eval", "é eval",
	} {
		want := whole.MatchString(text)
		if got := isDynamic([]byte(text)); got != want {
			t.Errorf("%q: got %v", text, got)
		}
		if want {
			is++
		}
	}
	if is < 20 {
		t.Errorf("%d texts are dynamic: they show little", is)
	}
}
