package tree

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"
	"sync/atomic"

	"dicaxon/internal/doing"
	"dicaxon/internal/safe"
)

// Options of Read. The zero value is what a user gets.
type Options struct {
	// Progress, where set, is called now and then with the number of names
	// read so far, from any goroutine.
	Progress func(names int)
	// Watch, where set, is asked about the name of every file, from several
	// goroutines; the folders that hold one it says yes to are in
	// Repository.Watched. Asking while the name is at hand is cheaper than
	// going through a million of them again.
	Watch func(name string) bool
}

// Read lists the repository at root: every folder that is not ignored, in one
// parallel pass. Where root lies inside a git work tree, the ignore files
// above it hold too. A folder that cannot be read becomes a Trouble and the
// rest is read all the same; the error is only for root itself.
func Read(root string, o Options) (*Repository, error) {
	abs, err := filepath.Abs(root)
	if err != nil {
		return nil, err
	}
	info, err := os.Stat(abs)
	if err != nil {
		return nil, err
	}
	if !info.IsDir() {
		return nil, &os.PathError{Op: "read", Path: root, Err: errors.New("is a file; name the folder of the repository")}
	}
	r := &reader{repository: &Repository{Root: abs, Top: &Folder{}}, progress: o.Progress, watch: o.Watch}
	doing.Step("reading the repository")
	r.start(abs)
	r.run()
	rep := r.repository
	if len(rep.Troubles) > 0 && rep.Top.Unread {
		return nil, rep.Troubles[0].Err
	}
	rep.number()
	rep.asked = map[string]bool{} // from here on: what reading itself asks for is in the seal
	slices.SortFunc(rep.Troubles, func(a, b Trouble) int { return strings.Compare(a.Path, b.Path) })
	return rep, nil
}

type reader struct {
	repository *Repository
	progress   func(int)
	watch      func(string) bool
	above      string // path of the root below git's top, "" or ending in "/"
	settings   gitSettings
	names      atomic.Int64

	mu      sync.Mutex
	more    sync.Cond
	waiting []*Folder
	busy    int
}

// start gathers the ignore files that hold at the root.
func (r *reader) start(abs string) {
	real, err := filepath.EvalSymlinks(abs)
	if err != nil {
		real = abs
	}
	top, _, common := GitFolders(real)
	r.settings = readGitSettings(common)
	r.repository.outside = map[string]string{"": fmt.Sprint(r.settings)}
	lists := r.outermost(common, "")
	if top != "" && top != real {
		rel, _ := filepath.Rel(top, real)
		r.above = filepath.ToSlash(rel) + "/"
		dir, base := top, ""
		for _, name := range strings.SplitAfter(strings.TrimSuffix(r.above, "/"), "/") {
			lists = r.listOf(filepath.Join(dir, ".gitignore"), base, lists)
			dir, base = filepath.Join(dir, name), base+strings.TrimSuffix(name, "/")+"/"
		}
	}
	r.repository.Top.lists, r.repository.above = lists, r.above
	r.waiting = []*Folder{r.repository.Top}
	r.more.L = &r.mu
}

// outermost gives the lists that hold for a whole repository: its own
// info/exclude, then the user's file.
func (r *reader) outermost(common, base string) *ignoreList {
	lists := r.listOf(r.settings.excludesFile, base, nil)
	if common != "" {
		lists = r.listOf(filepath.Join(common, "info", "exclude"), base, lists)
	}
	return lists
}

func (r *reader) listOf(path, base string, next *ignoreList) *ignoreList {
	text, err := safe.ReadAny(path, safe.Settings)
	r.mu.Lock()
	r.repository.outside[path+"\x00"+base] = string(text)
	r.mu.Unlock()
	if err != nil {
		return next
	}
	return parseIgnore(text, base, r.settings.ignoreCase, next)
}

func (r *reader) run() {
	var all sync.WaitGroup
	for range max(4, runtime.GOMAXPROCS(0)) {
		all.Go(func() {
			w := worker{reader: r}
			defer w.near.close()
			for {
				folder := r.take()
				if folder == nil {
					return
				}
				r.done(w.read(folder))
			}
		})
	}
	all.Wait()
}

// take waits for a folder to read. It gives nil when none will come any more.
func (r *reader) take() *Folder {
	r.mu.Lock()
	defer r.mu.Unlock()
	for len(r.waiting) == 0 && r.busy > 0 {
		r.more.Wait()
	}
	if len(r.waiting) == 0 {
		return nil
	}
	last := len(r.waiting) - 1
	folder := r.waiting[last]
	r.waiting = r.waiting[:last]
	r.busy++
	return folder
}

func (r *reader) done(found []*Folder) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.waiting = append(r.waiting, found...)
	r.busy--
	if len(found) > 1 || r.busy == 0 {
		r.more.Broadcast()
	} else if len(found) == 1 {
		r.more.Signal()
	}
}

// read lists one folder and gives the folders in it that are to be read.
func (r *worker) read(f *Folder) []*Folder {
	path := f.Path()
	doing.At(path)
	entries, err := r.list(path)
	if err != nil {
		f.Unread = true
		r.repository.troubled(path, err)
		// A long folder can fail midway; what was listed still counts.
		if len(entries) == 0 {
			return nil
		}
	}
	above := r.above + path
	lists := r.listsOf(f, path, above, entries)
	f.lists = lists
	f.Nodes = make([]Node, 0, len(entries))
	var folders []*Folder
	for _, e := range entries {
		node := Node{Name: e.name, Kind: e.kind}
		if node.Name == ".git" || node.Kind == IsFolder && len(node.Name) == 4 && strings.EqualFold(node.Name, ".git") || strings.HasPrefix(node.Name, safe.Stage) {
			continue
		}
		isFolder := node.Kind == IsFolder
		node.Ignored = lists.ignored(above, node.Name, isFolder)
		if isFolder {
			node.Folder = &Folder{Name: node.Name, Parent: f, Unread: node.Ignored, lists: lists}
			if !node.Ignored {
				folders = append(folders, node.Folder)
			}
		}
		if !isFolder && r.watch != nil && !node.Ignored && !f.watched {
			f.watched = r.watch(node.Name)
		}
		f.Nodes = append(f.Nodes, node)
	}
	slices.SortFunc(f.Nodes, func(a, b Node) int { return strings.Compare(a.Name, b.Name) })
	if r.progress != nil {
		r.progress(int(r.names.Add(int64(len(entries)))))
	}
	return folders
}

// listsOf gives the ignore lists that hold in a folder whose entries are known.
func (r *reader) listsOf(f *Folder, path, above string, entries []entry) *ignoreList {
	lists := f.lists
	has := func(name string) bool {
		// Git reads no ignore file through a link.
		return slices.ContainsFunc(entries, func(e entry) bool { return e.name == name && e.kind != Link })
	}
	if f.Parent != nil && has(".git") {
		// A repository within: what holds outside ends here.
		if _, common := gitFolder(filepath.Join(r.repository.Root, filepath.FromSlash(path))); common != "" {
			lists = r.outermost(common, above)
		}
	}
	if has(".gitignore") {
		if text, err := r.repository.Text(path + ".gitignore"); err == nil {
			lists = parseIgnore(text, above, r.settings.ignoreCase, lists)
		}
	}
	return lists
}

// number fills in Folders and the folders' places in it, and counts the files.
func (rep *Repository) number() {
	rep.Folders, rep.Watched, rep.Files = rep.Folders[:0], nil, 0
	var walk func(f *Folder)
	walk = func(f *Folder) {
		f.ID = int32(len(rep.Folders))
		rep.Folders = append(rep.Folders, f)
		if f.watched {
			rep.Watched = append(rep.Watched, f)
		}
		for i := range f.Nodes {
			if n := &f.Nodes[i]; n.Folder != nil {
				walk(n.Folder)
			} else if !n.Ignored {
				rep.Files++
			}
		}
	}
	walk(rep.Top)
}
