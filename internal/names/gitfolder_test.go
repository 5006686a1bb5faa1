package names

import "testing"

func TestIsGitFolder(t *testing.T) {
	for _, name := range []string{".git", ".GIT", ".Git", "git~1", "GIT~2", ".git.", ".git ", ".git. .", ".git::$INDEX_ALLOCATION", ".git:x", ".g\u200cit", "\ufeff.git", ".gi\u206ft"} {
		if !IsGitFolder(name) {
			t.Errorf("%q is taken for a plain name", name)
		}
	}
	for _, name := range []string{".gitignore", ".github", "git", "git~", "x.git", ".git-keep", "", "git~1x"} {
		if IsGitFolder(name) {
			t.Errorf("%q is refused", name)
		}
	}
}
