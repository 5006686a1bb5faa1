package rules

import (
	"path"
	"slices"
	"strings"

	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
	"dicaxon/internal/refs/lang/container"
)

var inImage = &Rule{
	Name: "in-image", Kind: finding.Disagrees, Level: finding.Warning,
	Doc: "What building a container image runs, and what it starts, was copied into it before, where the project has it.",
	Example: `- rule: in-image
  files: Dockerfile
  asks: ['package.json~(npm ci)', 'go.mod~(go build)']
  by: '\s-r\s+([\w./-]+\.txt)'`,
	Options: []Option{
		{"files", Paths, true, "the files by which images are built", false},
		{"asks", Texts, false, "what commands look for, each as file~regular expression, which the command fits", false},
		{"by", Regexps, false, "finds a file in a command: its first group", false},
		{"modules", Regexps, false, "finds a module of Python in a command, with dots: its first group", false},
	},
	Check: checkPlace("asks"),
	Run:   runInImage,
}

// A stage is what one part of a container file has copied so far.
type stage struct {
	name   string
	copied []string
	open   bool // there may be more in it than one sees
}

func runInImage(c *Call) {
	asks := c.findersAt("asks")
	for _, f := range c.files("files") {
		text := c.textOf(f.path)
		if c.lends(f.path) || strings.Contains(string(text), "<<") {
			continue
		}
		i := &image{Call: c, asks: asks, at: f.path, text: text}
		for _, words := range container.Instructions(text) {
			i.instruction(words)
		}
	}
}

// An image is a container file that is gone through.
type image struct {
	*Call
	asks   []finderAt
	at     string
	text   []byte
	stages []*stage
	told   bool
}

func (i *image) word(s lang.Span) string { return string(s.In(i.text)) }

// instruction goes on by one.
func (i *image) instruction(words []lang.Span) {
	var options, args []string
	for _, w := range words[1:] {
		if word := i.word(w); strings.HasPrefix(word, "--") && len(args) == 0 {
			options = append(options, word)
		} else {
			args = append(args, word)
		}
	}
	name := strings.ToUpper(i.word(words[0]))
	if name == "FROM" {
		i.begin(args)
		return
	}
	if len(i.stages) == 0 || len(args) == 0 {
		return
	}
	now := i.stages[len(i.stages)-1]
	switch name {
	case "COPY", "ADD":
		for _, from := range args[:len(args)-1] {
			from = path.Clean(strings.Trim(from, `[]",`))
			now.copied = append(now.copied, from)
			if !strings.ContainsAny(from, "*?[") && i.has(strings.TrimPrefix(from, "/")) == "" {
				now.open = true // it is built from a folder that nobody knows
			}
		}
		from := slices.ContainsFunc(options, func(o string) bool { return strings.HasPrefix(o, "--from") })
		now.open = now.open || from || strings.ContainsAny(strings.Join(args, " "), "$") || strings.Contains(args[0], "://")
	case "RUN":
		command := strings.Join(args, " ")
		mounts := slices.ContainsFunc(options, func(o string) bool { return strings.HasPrefix(o, "--mount=type=bind") })
		now.open = now.open || mounts || fetches.MatchString(command)
		i.asked(now, command, words, false)
	case "CMD", "ENTRYPOINT":
		copies := slices.ContainsFunc(i.stages, func(s *stage) bool { return len(s.copied) > 0 })
		if !copies || i.mounted() {
			return // what it starts is put there once it runs
		}
		i.asked(now, strings.Join(strings.FieldsFunc(strings.Join(args, " "), func(r rune) bool { return strings.ContainsRune(`[]", `, r) }), " "), words, true)
	}
}

// fetches is a command that brings files from elsewhere, or makes some.
var fetches = lazy.New(`\b(?:git|curl|wget|svn|tar|unzip|cp|mv|ln|touch|tee|npx|scp|rsync)\b|\bnpm init\b|\bgo mod init\b|>`)

// begin starts a stage. An image of a house of its own may bring anything.
func (i *image) begin(args []string) {
	now := &stage{}
	if len(args) > 2 && strings.EqualFold(args[1], "as") {
		now.name = args[2]
	}
	if len(args) > 0 {
		base := args[0]
		now.open = strings.ContainsAny(base, "$") || strings.Contains(base, "/") && !official.MatchString(base)
		for _, s := range i.stages {
			if s.name != "" && s.name == base {
				now.copied, now.open = slices.Clone(s.copied), s.open
			}
		}
	}
	i.stages = append(i.stages, now)
}

// official are the houses whose images hold languages and systems, and nothing of a project.
var official = lazy.New(`^(?:apache/|docker\.io/apache/|mcr\.microsoft\.com/|docker\.io/library/|public\.ecr\.aws/docker/library/|gcr\.io/distroless/|registry\.access\.redhat\.com/)`)

// asked tells of what a command looks for and that was not copied.
func (i *image) asked(now *stage, command string, words []lang.Span, starts bool) {
	if now.open || i.told {
		return // what else it looks for is missing for the same reason
	}
	var sought []string
	for _, ask := range i.asks {
		if ask.finds.MatchString(command) {
			sought = append(sought, ask.file)
		}
	}
	for _, re := range i.regexps["by"] {
		for _, m := range re.Get().FindAllStringSubmatch(command, -1) {
			sought = append(sought, m[1])
		}
	}
	for _, re := range i.regexps["modules"] {
		for _, m := range re.Get().FindAllStringSubmatch(command, -1) {
			name := strings.ReplaceAll(m[1], ".", "/")
			sought = append(sought, name+".py", name+"/__init__.py", name+"/__main__.py")
		}
	}
	if starts {
		sought = append(sought, i.behind(sought)...)
	}
	for _, file := range sought {
		file = strings.TrimPrefix(path.Clean(file), "/")
		if at := i.has(file); at != "" && !now.brings(i.Call, path.Dir(i.at), file) {
			line, column := refs.Place(i.text, words[0])
			i.report(i.at, line, column, &finding.Place{Path: at}, "it looks for %s here, which was not copied into the image", file)
			i.told = true
			return
		}
	}
}

// mounts is how a compose file puts folders of the project into what it runs.
var mounts = lazy.New(`(?m)^\s*-\s*["']?\.{1,2}/?[\w./-]*:/|^\s*source:\s*["']?\.`)

// mounted says whether a compose file does so.
func (i *image) mounted() bool {
	return slices.ContainsFunc([]string{"compose.yaml", "compose.yml", "docker-compose.yaml", "docker-compose.yml", "compose.override.yaml", "docker-compose.override.yml", "docker-compose.dev.yml"}, func(name string) bool {
		return slices.ContainsFunc([]string{path.Dir(i.at), "."}, func(dir string) bool { return mounts.Match(i.textOf(path.Join(dir, name))) })
	})
}

// mostBehind is how many files are followed that a program needs.
const mostBehind = 200

// behind gives what the files that an image starts import of the project, over others, as paths of it.
func (i *image) behind(started []string) (all []string) {
	seen, next := map[string]bool{}, []string{}
	for _, file := range started {
		if at := i.has(file); at != "" && refs.IsCode(at) {
			next = append(next, at)
		}
	}
	for len(next) > 0 && len(seen) < mostBehind {
		at := next[0]
		next = next[1:]
		for _, e := range i.Graph.From(at) {
			for _, to := range e.To {
				if e.Ref.Kind == refs.Import && !e.Ref.Guarded && !seen[to] && e.How == lang.Exactly && !i.isFolder(to) {
					seen[to] = true
					all, next = append(all, strings.TrimPrefix(to, path.Dir(i.at)+"/")), append(next, to)
				}
			}
		}
	}
	return all
}

// has gives where the project has a file that an image looks for: in the folder of the container file
// or at the top, "" where it does not.
func (i *image) has(file string) string {
	for _, dir := range []string{path.Dir(i.at), "."} {
		if at := path.Join(dir, file); i.node(at) != nil {
			return at
		}
	}
	return ""
}

// brings says whether what was copied has a file: by its path or its name, or in a folder.
func (s *stage) brings(c *Call, dir, file string) bool {
	return slices.ContainsFunc(s.copied, func(from string) bool {
		from = strings.TrimPrefix(from, "/")
		if from == "." || from == "" || from == "*" || strings.HasPrefix(file, from+"/") || strings.HasSuffix(from, "/**") {
			return true
		}
		if fits, _ := path.Match(path.Base(from), path.Base(file)); fits {
			return true
		}
		for _, at := range []string{path.Join(dir, from), from} {
			if c.isFolder(at) && (c.node(path.Join(at, file)) != nil || c.node(path.Join(at, path.Base(file))) != nil) {
				return true
			}
		}
		// A folder that stands for a pattern, or that is not here: nobody knows what is in it.
		return strings.ContainsAny(path.Dir(from), "*?[") || strings.HasPrefix(from, "..")
	})
}
