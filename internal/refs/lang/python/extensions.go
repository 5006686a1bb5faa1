package python

import (
	"path"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// builds is what settings have that build modules of another language.
var builds = lazy.New(`\bExtension\(|\bext_modules\b|\bcffi_modules\b|\bcythonize\(|\bpy(?:thon)?_?extension_module\b|\bRustExtension\(`)

// compiled says whether what builds modules of another language names one.
func compiled(l *lang.Look, name string) bool {
	for _, text := range lang.Once(l, "python builds", func() (all [][]byte) {
		for _, stem := range []string{"setup", "build", "meson", "CMakeLists"} {
			for _, at := range l.Called(stem) {
				if text := l.TextOf(at); path.Ext(at) != ".md" && builds.Match(text) {
					all = append(all, text)
				}
			}
		}
		return all
	}) {
		if lang.HasWord(text, name) {
			return true
		}
	}
	return false
}
