// Package xcode reads the project files of Xcode, which list what is built by groups that
// stand for folders.
package xcode

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs/lang"
)

// Language is the project file of Xcode. The name of a Path is that from the folder around the
// project, its span what the file itself says of it: the end of that path.
var Language = lang.Language{Names: []string{"project.pbxproj"}, Read: read, Resolve: resolve}

func read(text []byte) lang.File {
	var f lang.File
	s := scanner{text: text}
	objects := s.value(0).keys["objects"].keys
	if s.failed {
		return f // nothing is known of one that is torn
	}
	p := project{objects: objects, around: map[string]string{}}
	for id, one := range objects {
		for _, child := range one.keys["children"].list {
			p.around[child.text] = id
		}
	}
	for id, one := range objects {
		switch one.keys["isa"].text {
		case "PBXFileReference", "PBXFileSystemSynchronizedRootGroup":
			at, known := p.pathOf(id, 0)
			if said := one.keys["path"]; known && said.text != "" && plain(at) && !made(at) {
				f.Refs = append(f.Refs, lang.Ref{Kind: lang.Path, Name: at, Span: said.span})
			}
		}
	}
	slices.SortFunc(f.Refs, func(a, b lang.Ref) int { return int(a.Span.Start - b.Span.Start) })
	return f
}

// plain says whether a path holds nothing that a build fills in.
func plain(at string) bool { return !strings.ContainsAny(at, `$\`) && !strings.HasPrefix(at, "/") }

// made says whether a path is of what others bring or make before a build: CocoaPods fills Pods/, Carthage a
// folder of its name, and the packager of React Native writes its bundle.
func made(at string) bool {
	parts := strings.Split(at, "/")
	return slices.Contains(parts, "Pods") || slices.Contains(parts, "Carthage") || strings.HasSuffix(at, ".jsbundle")
}

// A project is the objects of a project file by their numbers, with the group that each is in.
type project struct {
	objects map[string]value
	around  map[string]string
}

// pathOf gives the path of a file or a group from the folder around the project; it is not
// known where it begins in another place, or in none.
func (p *project) pathOf(id string, deep int) (string, bool) {
	one, there := p.objects[id]
	said := one.keys["path"].text
	switch tree := one.keys["sourceTree"].text; {
	case !there || deep > deepest:
		return "", false
	case tree == "SOURCE_ROOT":
		return said, true
	case tree != "<group>":
		return "", false
	}
	group, within := p.around[id]
	if !within {
		return said, p.isTop(id) // the group around all others
	}
	before, known := p.pathOf(group, deep+1)
	return path.Join(before, said), known
}

// isTop says whether a group holds others and is in none.
func (p *project) isTop(id string) bool { return p.objects[id].keys["isa"].text == "PBXGroup" }

func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind != lang.Path {
		return lang.Answer{}
	}
	answer := l.Relative(path.Dir(from), ref.Name)
	answer.Own, answer.Fails = !strings.HasPrefix(answer.Sought[0], ".."), true
	return answer
}
