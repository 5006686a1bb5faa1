//go:build unix

package hostile

import (
	"os"
	"path/filepath"
	"testing"
)

// TestNothingOfGitRuns holds that a repository's settings start no program.
func TestNothingOfGitRuns(t *testing.T) {
	for name, setting := range map[string]string{
		"a monitor": "core.fsmonitor", "an editor": "core.editor", "a pager": "core.pager", "a proxy": "core.gitProxy", "a shell for fetching": "core.sshCommand", "a filter": "filter.x.clean", "a difference": "diff.external", "an alias": "alias.ls-files", "a signer": "gpg.program", "credentials": "credential.helper",
	} {
		t.Run(name, func(t *testing.T) {
			dir := filepath.Join(t.TempDir(), "repo")
			must(t, os.Mkdir(dir, 0o755))
			begin(t, dir)
			git(t, dir, "update-index", "--split-index") // so that git itself is asked
			ran := filepath.Join(filepath.Dir(dir), "ran")
			git(t, dir, "config", "filter.x.smudge", "touch "+ran)
			git(t, dir, "config", setting, "touch "+ran+";")
			write(t, dir, map[string]string{".gitattributes": "* filter=x diff=x\n", ".git/hooks/post-index-change": "#!/bin/sh\ntouch " + ran + "\n", "app/views.py": "import re\n"})
			must(t, os.Chmod(filepath.Join(dir, ".git/hooks/post-index-change"), 0o755))
			for _, args := range [][]string{{"check", "."}, {"check", ".", "--staged"}, {"check", ".", "--at", "HEAD@{0}"}, {"check", ".", "--since", "@{-1}"}, {"identify", "."}} {
				run(t, dir, args...)
			}
			if _, err := os.Stat(ran); err == nil {
				t.Error("it ran")
			}
		})
	}
}
