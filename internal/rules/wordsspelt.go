package rules

import (
	"bytes"
	"maps"
	"path"
	"slices"
	"strings"

	"dicaxon/internal/edit"
	"dicaxon/internal/finding"
	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs"
	"dicaxon/internal/refs/lang"
)

var wordsSpelt = &Rule{
	Name: "words-spelt", Kind: finding.Dangling, Level: finding.Warning, Always: true, Last: true,
	Doc: "A word of settings, of the markup of a page or of a text in code that nothing else says has its letters in no other order than a name of a file or folder here, or than what such files say several times.",
	Example: `- rule: words-spelt
  except: "locales/**"`,
	Options: []Option{
		{"except", Paths, false, "files whose words may be any", true},
		{"known", Texts, false, "words that settings say, though nothing here may", false},
	},
	Run: runWordsSpelt,
}

// A saying is a word where it is said, or said first.
type saying struct {
	at    string
	span  refs.Span
	times int
}

// mostSaid is how many bytes a text has at most whose words are looked at: longer ones are data.
const mostSaid = 1 << 16

func runWordsSpelt(c *Call) {
	if c.Files > mostTurned {
		return
	}
	said := c.sayings()
	named := c.namesSaid()
	known := maps.Clone(named)
	for word, s := range said {
		if s.times > 1 {
			known[word] = true
		}
	}
	usual := map[string]bool{}
	for _, word := range c.texts("known") {
		usual[word] = true
	}
	long := c.longWords(said, named)
	meant := map[string]string{}
	for word, s := range said {
		if s.times > 1 || known[word] {
			continue
		}
		m := turnedFrom(word, known)
		if m == "" && speechOf(s.at) == settingLines && !usual[word] {
			m = turnedFrom(word, usual)
		}
		if m == "" && len(word) >= sureWord-1 && speechOf(s.at) == settingLines { // pages have comments, too
			m = only(long[word[0]], func(one string) bool { return len(one) >= sureWord && names.MistypedWord(word, one) })
		}
		if m != "" {
			meant[word] = m
		}
	}
	if len(meant) == 0 {
		return
	}
	in := map[string]int{}
	for word := range meant {
		in[said[word].at]++
	}
	for _, word := range slices.Sorted(maps.Keys(meant)) {
		if in[said[word].at] > mostSlips {
			continue // such words are what the file lists
		}
		if s := said[word]; !c.toldAt(s.at, s.span) && c.saidOnce(word) {
			code := speechOf(s.at) == quotations // a text in code may be anything
			if code && !named[meant[word]] && (isTest(s.at) || len(word) == shortWord) {
				continue
			}
			line, column := refs.Place(c.textOf(s.at), s.span)
			f := c.report(s.at, line, column, nil, "it says %s, which nothing else here does; did it mean %s?", word, meant[word])
			if f.About = word; code && (isTest(s.at) || !named[meant[word]]) {
				f.Level = finding.Note
			}
			f.Fix = []edit.Edit{c.edit(s.at, s.span, meant[word])}
		}
	}
}

// sureWord is how many letters a word has at least of which one left out or put in is told, and often
// how many times it is said at least where nothing is called as it.
const sureWord, often = 8, 3

// longWords gives those that such a word may mean, by their first letters.
func (c *Call) longWords(said map[string]*saying, named map[string]bool) map[byte][]string {
	all := map[string]bool{}
	for word, s := range said {
		if len(word) >= sureWord && s.times >= often {
			all[word] = true
		}
	}
	for word := range named {
		if len(word) >= sureWord {
			all[word] = true
		}
	}
	return byFirst(maps.Keys(all))
}

// sayings gathers the words of settings, of the markup of pages and of texts in code.
func (c *Call) sayings() map[string]*saying {
	all := map[string]*saying{}
	c.Graph.Look().Each(func(at string) {
		parts := speechOf(at)
		lent := c.lends(at) && path.Ext(at) != ".erb" // those of others are templates of templates
		if parts == silent || lent || inFolder(at, func(name string) bool { return slices.Contains(samples, strings.ToLower(name)) }) || c.fits("except", at) {
			return
		}
		text := c.textOf(at)
		if len(text) > mostSaid {
			return
		}
		parts.each(text, func(from, to int) { noteWords(all, at, text, from, to) })
	})
	return all
}

// mostSlips is how many words of one file are taken for slips.
const mostSlips = 3

// Words have so many letters that few have those of another, and no more than people write.
const shortWord, longWord = 4, 24

// noteWords notes the words of a part of a text.
func noteWords(all map[string]*saying, at string, text []byte, from, to int) {
	eachWord(text, from, to, func(from, to int) {
		if from > 0 && isDigit(text[from-1]) || to < len(text) && isDigit(text[to]) || isHex(text[from:to]) {
			return // of a number, or of a code
		}
		if s := all[string(text[from:to])]; s != nil {
			s.times++
		} else {
			all[string(text[from:to])] = &saying{at, lang.At(from, to), 1}
		}
	})
}

// eachWord goes through the words of a part of a text: letters alone.
func eachWord(text []byte, from, to int, do func(from, to int)) {
	for i := from; i < to; i++ {
		start := i
		for i < to && names.IsLetter(text[i]) {
			i++
		}
		if start > 0 && text[start-1] == '\\' {
			start++ // of a regular expression, or a line end
		}
		if n := i - start; n >= shortWord && n <= longWord {
			do(start, i)
		}
	}
}

// mostQuoted is how long a text in code is at most whose words are looked at.
const mostQuoted = 80

// eachQuoted goes through the texts between quotation marks that are no sentences: without spaces.
func eachQuoted(text []byte, do func(from, to int)) {
	for i := 0; i < len(text); i++ {
		mark := text[i]
		if mark != '"' && mark != '\'' && mark != '`' {
			continue
		}
		end := i + 1
		for end < len(text) && end-i <= mostQuoted && text[end] > ' ' && text[end] != '\\' && text[end] != mark {
			end++
		}
		if end < len(text) && text[end] == mark && end-i > shortWord {
			do(i+1, end)
		}
		if end < len(text) && text[end] == mark {
			i = end
		}
	}
}

func isDigit(c byte) bool { return '0' <= c && c <= '9' }

// isHex says whether a word may be a number of base sixteen.
func isHex(word []byte) bool {
	return !bytes.ContainsFunc(word, func(r rune) bool { return r|0x20 > 'f' })
}

// A speech is where the words of a file stand that are looked at.
type speech int

const (
	silent       speech = iota
	settingLines        // of settings, without what is only for people
	markup              // what a page holds besides what people read
	quotations          // in code, what is no sentence
)

// each goes through the parts of a text in which such words stand.
func (s speech) each(text []byte, do func(from, to int)) {
	if s == quotations {
		eachQuoted(text, do)
		return
	}
	parts := lines
	if s == markup {
		parts = tags
	}
	for _, part := range parts.FindAll(text) {
		do(part[0], part[1])
	}
}

var (
	lines = lazy.New(`(?m)^[ \t]*[^#;/ \t\n].*`)
	tags  = lazy.New(`\{[{%][^{}]*[}%]\}|<%[^%]*%>|</?[A-Za-z][^<>]*>`)
	// translations are texts for people, in one language or for several.
	translations = lazy.New(`(?i)(?:^|/)(?:locales?|i18n|l10n|lang|langs|languages|translations?)/|(?i)[-_.][a-z]{2}(?:[-_][a-z]{2})?\.(?:properties|ya?ml|json|ini|arb|strings|resx|xml)$|(?i)messages[\w.-]*\.properties$`)
	// ofSettings are files of settings, also those whose names have no ending that says so, or one of code.
	ofSettings = lazy.New(`^(?:Dockerfile(?:\..*)?|Containerfile|Makefile|Procfile(?:\..*)?|Jenkinsfile|Gemfile|Rakefile|package\.json|tsconfig[\w.-]*\.json|angular\.json|composer\.json|nest-cli\.json|app\.json|requirements[\w.-]*\.txt|pom\.xml|.*\.(?:gradle|gradle\.kts|gemspec|csproj|sln|slnx|ya?ml|toml|ini|cfg|properties|tf|hcl))$`)
)

// speechOf says where the words of a file stand that are looked at.
func speechOf(at string) speech {
	base := path.Base(at)
	switch {
	case translations.MatchString(at):
		return silent
	case holdsMarkup(at):
		return markup
	case strings.Contains(base, "lock"), inFolder(at, func(name string) bool { return strings.EqualFold(name, "messages") }):
		return silent
	case ofSettings.MatchString(base):
		return settingLines
	case refs.IsCode(at) && path.Ext(at) != ".md":
		return quotations
	}
	return silent
}

// holdsMarkup says whether a file is a page, or a part of one, by its name.
func holdsMarkup(at string) bool {
	switch path.Ext(at) {
	case ".html", ".htm", ".erb", ".twig", ".jinja", ".hbs", ".ejs", ".vue", ".svelte", ".astro", ".cshtml":
		return true
	}
	return strings.HasSuffix(at, ".blade.php")
}

// namesSaid gathers the words of the names of files and folders.
func (c *Call) namesSaid() map[string]bool {
	known, folders := map[string]bool{}, map[string]bool{}
	note := func(name string) {
		eachWord([]byte(name), 0, len(name), func(from, to int) { known[name[from:to]] = true })
	}
	c.Graph.Look().Each(func(at string) {
		note(path.Base(at))
		for dir := path.Dir(at); dir != "." && !folders[dir]; dir = path.Dir(dir) {
			folders[dir] = true
			note(path.Base(dir))
		}
	})
	return known
}

// bothWords are words that have the letters of each other in another order.
var bothWords = lang.SetOf(`from form lien line sign sing clam calm salt slat goal gaol barn bran trap tarp tied tide dose does gird grid lion loin
	lair liar silt slit bolt blot clod cold warp wrap garb grab carp crap part prat cast cats cost cots post pots host hots lost lots past pats
	fast fats rust ruts dust duts fist fits best bets east eats most mots beast beats boast boats coast coats feast feats exist exits waist waits
	worst worts trail trial angel angle broad board quiet quite diary dairy casual causal united untied unite untie silver sliver marital martial
	sacred scared signed singed tried tired crate carte field filed fired fried split spilt slave salve perform preform perfect prefect
	bread beard`)

// turnedFrom gives the one known word whose letters a word has, two of them in another order; "" where
// there is none, or several, or where both are words.
func turnedFrom(word string, known map[string]bool) (found string) {
	if bothWords()[strings.ToLower(word)] {
		return ""
	}
	for i, turned := range names.Transpositions(word) {
		ending := strings.TrimSuffix(word[i:], "s")
		small := word[i] >= 'a' && word[i+1] >= 'a'
		if i == 0 || ending == "re" || ending == "er" || len(word) == shortWord && !small || !known[string(turned)] { // metre and meter
			continue
		}
		if found != "" {
			return ""
		}
		found = string(turned)
	}
	return found
}

// toldAt says whether something is told of the line of a place already.
func (c *Call) toldAt(at string, span refs.Span) bool {
	line, _ := refs.Place(c.textOf(at), span)
	return slices.ContainsFunc(c.findings, func(f finding.Finding) bool { return f.Path == c.Top.Path()+at && f.Line == line })
}

// saidOnce says whether the files of the project say a word once.
func (c *Call) saidOnce(word string) bool {
	times := 0
	c.Graph.Look().Each(func(at string) {
		if times < 2 {
			times += bytes.Count(c.textOf(at), []byte(word))
		}
	})
	return times == 1
}
