// Package container reads the files that container images are built by.
package container

import (
	"bytes"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/refs/lang"
)

// Language is a container file: what COPY and ADD take from the project are Paths,
// the images are Imports.
var Language = lang.Language{Names: []string{"Dockerfile", "Containerfile"}, Read: read, Resolve: resolve}

func read(text []byte) lang.File {
	var f lang.File
	for _, words := range Instructions(text) {
		f.Refs = append(f.Refs, instruction(text, words)...)
	}
	if bytes.Contains(text, []byte("--from=")) {
		for i := range f.Refs {
			if f.Refs[i].Kind == lang.Path {
				f.Refs[i].Value = built
			}
		}
	}
	return f
}

// Instructions gives the words of each instruction, over the lines that it goes on in, without
// comments (Dockerfile reference, "Format").
func Instructions(text []byte) (all [][]lang.Span) {
	var words []lang.Span
	continued := false
	for start := 0; start < len(text); {
		end := start + lang.LineLength(text[start:])
		line := strings.TrimRight(string(text[start:end]), " \t\r")
		if trimmed := strings.TrimSpace(line); !strings.HasPrefix(trimmed, "#") {
			if !continued {
				words = nil
			}
			continued = strings.HasSuffix(trimmed, `\`)
			last := start + len(line)
			if continued {
				last--
			}
			words = append(words, lang.Split(text, lang.At(start, last), " \t")...)
			if len(words) > 0 && (!continued || end >= len(text)) {
				all = append(all, words)
			}
		}
		start = end + 1
	}
	return all
}

// built is the value of a path in a file that builds its programs in a stage of its own: what it
// takes from around it is none of them.
const built = "built"

func instruction(text []byte, words []lang.Span) []lang.Ref {
	if len(words) < 2 {
		return nil
	}
	word := func(s lang.Span) string { return string(s.In(text)) }
	var args []lang.Span
	for _, w := range words[1:] {
		if strings.HasPrefix(word(w), "--from") {
			return nil // it comes from another stage
		}
		if !strings.HasPrefix(word(w), "--") {
			args = append(args, w)
		}
	}
	if len(args) == 0 {
		return nil
	}
	switch strings.ToUpper(word(words[0])) {
	case "FROM":
		return []lang.Ref{{Kind: lang.Import, Name: word(args[0]), Span: args[0]}}
	case "COPY", "ADD":
		if strings.HasPrefix(word(args[0]), "[") {
			args = lang.Split(text, lang.At(int(args[0].Start), int(args[len(args)-1].End)), `[],"`)
		}
		var all []lang.Ref
		for _, from := range args[:max(len(args)-1, 0)] {
			if name := word(from); len(name) > 2 && name[0] == '"' && name[len(name)-1] == '"' {
				from = lang.At(int(from.Start)+1, int(from.End)-1)
			}
			if name := word(from); !strings.Contains(name, "://") && !strings.Contains(name, "$") && !strings.HasPrefix(name, "<<") {
				all = append(all, lang.Ref{Kind: lang.Path, Name: name, Span: from})
			}
		}
		return all
	}
	return nil
}

// resolve looks a path up from the folder of the file and from those around it:
// which of them is the context, the call that builds the image says.
func resolve(l *lang.Look, from string, ref lang.Ref) lang.Answer {
	if ref.Kind != lang.Path {
		return lang.Answer{}
	}
	// Below the top, who builds the image may do so from anywhere.
	answer := lang.Answer{Own: true, Fails: path.Dir(from) == "."}
	name := strings.TrimPrefix(ref.Name, "/")
	if strings.ContainsAny(name, "*?[{") || path.Clean(name) == "." { // all that is there
		return lang.Answer{}
	}
	answer.Only = ref.Value != built && !strings.ContainsAny(name, "./") && !isInterpreted(l) || strings.HasPrefix(name, "bin/") // a program that was built before
	for dir := path.Dir(from); ; dir = path.Dir(dir) {
		at := path.Join(dir, name)
		answer.Sought = append(answer.Sought, at)
		if found := l.There(at); found != nil {
			answer.To = found
			if dir != path.Dir(from) {
				answer.How = lang.Convention
			}
			return answer
		}
		if dir == "." && l.IsFolder("cmd/"+name) {
			return lang.Answer{} // a program of that name is built before
		}
		if dir == "." {
			return answer
		}
	}
}

// isInterpreted says whether nothing at the top builds programs: what an image takes is what is there.
func isInterpreted(l *lang.Look) bool {
	return lang.Once(l, "container interpreted", func() bool {
		there := func(names ...string) bool { return slices.ContainsFunc(names, l.IsFile) }
		return there("package.json", "requirements.txt", "pyproject.toml", "composer.json", "Gemfile") &&
			!there("go.mod", "Cargo.toml", "Makefile", "CMakeLists.txt", "pom.xml", "build.gradle", "build.gradle.kts", "meson.build")
	})
}
