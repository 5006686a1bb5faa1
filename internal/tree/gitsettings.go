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

// Git says where git keeps what it knows of a work tree.
type Git struct {
	Top     string   // of the work tree, links followed; "" where there is no repository
	Work    string   // what belongs to this work tree alone
	Common  string   // what all work trees of the repository share
	Index   string   // the file of what is staged
	Objects []string // folders of objects, the repository's own first
}

// Sparse says whether the work tree may leave files out on purpose.
func (g Git) Sparse() bool {
	_, err := os.Stat(filepath.Join(g.Work, "info", "sparse-checkout"))
	return err == nil
}

// GitOf finds the repository that a folder lies in, as git would: by the nearest ".git"
// or, inside a hook or where somebody says so, by the variables of git's environment. Those
// count for the repository that this program was started in, and for no other.
func GitOf(dir string) Git {
	if whole, err := filepath.Abs(dir); err == nil {
		dir = whole
	}
	top, work, common := GitFolders(dir)
	if top == "" {
		return Git{}
	}
	g := Git{Top: top, Work: work, Common: common, Index: filepath.Join(work, "index"), Objects: []string{filepath.Join(common, "objects")}}
	here, err := os.Getwd()
	if err != nil {
		return g
	}
	if at, _, _ := GitFolders(here); at != top {
		return g
	}
	if index := os.Getenv("GIT_INDEX_FILE"); index != "" {
		g.Index = Beneath(top, index)
	}
	if objects := os.Getenv("GIT_OBJECT_DIRECTORY"); objects != "" {
		g.Objects = []string{Beneath(here, objects), filepath.Join(common, "objects")}
	}
	for _, more := range filepath.SplitList(os.Getenv("GIT_ALTERNATE_OBJECT_DIRECTORIES")) {
		g.Objects = append(g.Objects, Beneath(here, more))
	}
	return g
}

// GitFolders gives the nearest folder at or above dir that holds a ".git", the
// folder in which git keeps what belongs to that work tree, and the one where it
// keeps what all its work trees share; "" for all where there is none. Links in
// dir are followed. A repository that GIT_DIR and GIT_WORK_TREE name counts where
// none is nearer.
func GitFolders(dir string) (top, work, common string) {
	dir = linksFollowed(dir)
	start := dir
	said, saidWork, saidCommon := gitOfEnvironment()
	for {
		if dir == said {
			return said, saidWork, saidCommon
		}
		if work, common := gitFolder(dir); work != "" {
			return dir, work, common
		}
		parent := filepath.Dir(dir)
		if parent == dir || !SameDisk(start, parent) && os.Getenv("GIT_DISCOVERY_ACROSS_FILESYSTEM") == "" {
			return "", "", "" // as git does
		}
		dir = parent
	}
}

func linksFollowed(dir string) string {
	if resolved, err := filepath.EvalSymlinks(dir); err == nil {
		return resolved
	}
	return dir
}

// gitOfEnvironment gives the repository that git's environment names, "" for none.
func gitOfEnvironment() (top, work, common string) {
	work = os.Getenv("GIT_DIR")
	if work == "" {
		return "", "", ""
	}
	here, err := os.Getwd()
	if err != nil {
		return "", "", ""
	}
	work = linksFollowed(Beneath(here, work))
	if _, err := os.Stat(filepath.Join(work, "HEAD")); err != nil {
		return "", "", ""
	}
	return linksFollowed(Beneath(here, os.Getenv("GIT_WORK_TREE"))), work, commonOf(work)
}

// commonOf gives what all work trees share of what belongs to one.
func commonOf(work string) string {
	if common, err := safe.ReadAny(filepath.Join(work, "commondir"), safe.Settings); err == nil {
		return Beneath(work, strings.TrimSpace(string(common)))
	}
	return work
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
	to = Beneath(dir, to)
	return to, commonOf(to)
}

// Beneath gives a path that starts from a folder, unless it is absolute.
func Beneath(dir, path string) string {
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

// GitSettings gives the settings of one repository's own file by their names in small
// letters: section.key, or section.name.key.
func GitSettings(common string) map[string]string {
	all := map[string]string{}
	text, err := safe.ReadAny(filepath.Join(common, "config"), safe.Settings)
	if err != nil {
		return all
	}
	_ = gcfg.ReadWithCallback(bytes.NewReader(text), func(section, sub, key, value string, _ bool) error {
		if sub != "" {
			section += "." + sub
		}
		if key != "" {
			all[strings.ToLower(section+"."+key)] = value
		}
		return nil
	})
	return all
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
			s.excludesFile = Beneath(filepath.Dir(path), expandHome(value, s.home))
		case "core.ignorecase":
			s.ignoreCase = blank || value == "true" || value == "yes" || value == "on" || value == "1"
		case "include.path":
			s.read(Beneath(filepath.Dir(path), expandHome(value, s.home)), depth+1)
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
