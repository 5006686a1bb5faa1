package tree

import (
	"bytes"
	"cmp"
	"os"
	"path/filepath"
	"strings"

	"github.com/go-git/gcfg/v2"

	"dicaxon/internal/safe"
)

// gitSettings are the few settings of git that decide what is ignored.
type gitSettings struct {
	excludesFile string
	ignoreCase   bool
}

// Git's own limit on nested includes, and ours on how many files are read in all.
const (
	maxInclude  = 10
	mostInclude = 100
)

// GitFolders gives the nearest folder at or above dir that holds a ".git", the
// folder in which git keeps what belongs to that work tree, and the one where it
// keeps what all its work trees share; "" for all where there is none. Links in
// dir are followed.
func GitFolders(dir string) (top, work, common string) {
	if resolved, err := filepath.EvalSymlinks(dir); err == nil {
		dir = resolved
	}
	for {
		if work, common := gitFolder(dir); work != "" {
			return dir, work, common
		}
		parent := filepath.Dir(dir)
		if parent == dir {
			return "", "", ""
		}
		dir = parent
	}
}

// gitFolder gives the folders of the repository whose work tree is dir. A ".git"
// file, as linked work trees and submodules have it, is followed.
func gitFolder(dir string) (work, common string) {
	git := filepath.Join(dir, ".git")
	info, err := os.Stat(git)
	switch {
	case err != nil:
		return "", ""
	case info.IsDir():
		if _, err := os.Stat(filepath.Join(git, "HEAD")); err != nil {
			return "", ""
		}
		return git, git
	}
	text, err := safe.ReadAny(git, safe.Settings)
	if err != nil {
		return "", ""
	}
	to, ok := strings.CutPrefix(strings.TrimSpace(string(text)), "gitdir: ")
	if !ok {
		return "", ""
	}
	to = below(dir, to)
	if common, err := safe.ReadAny(filepath.Join(to, "commondir"), safe.Settings); err == nil {
		return to, below(to, strings.TrimSpace(string(common)))
	}
	return to, to
}

func below(dir, path string) string {
	if filepath.IsAbs(path) {
		return filepath.Clean(path)
	}
	return filepath.Join(dir, path)
}

// readGitSettings reads the settings files in git's order: the machine's, the
// user's two, the repository's. What cannot be read counts as unset.
func readGitSettings(common string) gitSettings {
	home, _ := os.UserHomeDir()
	xdg := os.Getenv("XDG_CONFIG_HOME")
	if xdg == "" {
		xdg = filepath.Join(home, ".config")
	}
	s := settingsReader{home: home}
	s.excludesFile = filepath.Join(xdg, "git", "ignore")
	if os.Getenv("GIT_CONFIG_NOSYSTEM") == "" {
		s.read(cmp.Or(os.Getenv("GIT_CONFIG_SYSTEM"), "/etc/gitconfig"), 0)
	}
	if global := os.Getenv("GIT_CONFIG_GLOBAL"); global != "" {
		s.read(global, 0)
	} else {
		s.read(filepath.Join(xdg, "git", "config"), 0)
		s.read(filepath.Join(home, ".gitconfig"), 0)
	}
	if common != "" {
		s.read(filepath.Join(common, "config"), 0)
	}
	return s.gitSettings
}

// A settingsReader follows the settings files from one to those that they include.
type settingsReader struct {
	gitSettings
	home  string
	files int
}

func (s *settingsReader) read(path string, depth int) {
	if s.files++; s.files > mostInclude || depth > maxInclude {
		return
	}
	text, err := safe.ReadAny(path, safe.Settings)
	if err != nil {
		return
	}
	// A mistake in a settings file is git's to complain about, not ours.
	_ = gcfg.ReadWithCallback(bytes.NewReader(text), func(section, sub, key, value string, blank bool) error {
		if sub != "" || key == "" {
			return nil
		}
		switch strings.ToLower(section + "." + key) {
		case "core.excludesfile":
			s.excludesFile = below(filepath.Dir(path), expandHome(value, s.home))
		case "core.ignorecase":
			s.ignoreCase = blank || value == "true" || value == "yes" || value == "on" || value == "1"
		case "include.path":
			s.read(below(filepath.Dir(path), expandHome(value, s.home)), depth+1)
		}
		return nil
	})
}

func expandHome(path, home string) string {
	if rest, ok := strings.CutPrefix(path, "~/"); ok {
		return filepath.Join(home, rest)
	}
	return path
}
