package safe

import (
	"context"
	"os"
	"os/exec"
	"slices"
	"strings"
)

// unprompted keeps git from running anything but itself and from fetching: no hooks,
// monitors, templates, pagers or signing programs, whatever a repository's settings say.
var unprompted = []string{"--no-pager", "-c", "core.hooksPath=" + os.DevNull, "-c", "core.fsmonitor=false", "-c", "init.templateDir=", "-c", "commit.gpgSign=false", "-c", "gc.auto=0", "-c", "maintenance.auto=false", "-c", "protocol.allow=never"}

// Git gives the call of git in a folder. Of what the environment says of repositories it
// sees nothing but what is given; who commits, and the machine's settings, stay.
func Git(ctx context.Context, dir string, given []string, args ...string) *exec.Cmd {
	git := exec.CommandContext(ctx, "git", append(unprompted, args...)...)
	git.Dir = dir
	git.Env = slices.DeleteFunc(os.Environ(), func(set string) bool { return strings.HasPrefix(set, "GIT_") && !ofAuthor(set) })
	git.Env = append(git.Env, "GIT_NO_LAZY_FETCH=1", "GIT_TERMINAL_PROMPT=0", "GIT_OPTIONAL_LOCKS=0")
	git.Env = append(git.Env, given...)
	return git
}

// ofAuthor says whether a setting of the environment only says who commits, and when, or
// where the settings of the machine and of the user are.
func ofAuthor(set string) bool {
	return strings.HasPrefix(set, "GIT_AUTHOR_") || strings.HasPrefix(set, "GIT_COMMITTER_") || strings.HasPrefix(set, "GIT_CONFIG_")
}
