package markdown

import (
	"maps"
	"net/url"
	"path"
	"slices"
	"strconv"
	"strings"
	"unicode"

	"dicaxon/internal/lazy"
	"dicaxon/internal/names"
	"dicaxon/internal/refs/lang"
)

// Programs that show a document name its headings by rules that differ in what becomes of marks and
// spaces, so anchors are compared by their letters and digits alone, and one is told as a slip only
// where it is nearly that of a heading.
var (
	heading   = lazy.New(`^ {0,3}#{1,6}[ \t]+(.*?)(?:[ \t]+#+)?[ \t]*\r?$`)
	underline = lazy.New(`^ {0,3}(?:=+|-+)[ \t]*\r?$`)
	byHand    = lazy.New(`\{[ \t:]*#([\w.:-]+)|(?:\bid|\bname)[ \t]*=[ \t]*["']?([^"'\s>]+)|^\(([\w. -]+)\)=`) // in braces, in HTML, before a heading
	linked    = lazy.New(`!?\[([^\[\]]*)\](?:\([^()]*\)|\[[^\[\]]*\])`)
	tag       = lazy.New(`</?(?i:a|b|i|u|s|p|em|br|tt|h[1-6]|img|kbd|del|ins|sub|sup|var|div|span|code|font|mark|small|strong|center|picture|source)\b[^<>]*>`)
	filledIn  = lazy.New(`\{\{|\{%|<%|^\s*<[A-Z]|^\s*!!!|^\s*:::|^\s*\.\. |--8<--|\[\[`) // a program writes a part of the document
	ofLines   = lazy.New(`^L\d+`)
)

// anchorsOf gives what links may lead to in a line of a text, as it is written but for marks of code, and says
// whether the line has a part that a program writes; above is the line before it, where that may be a heading.
func anchorsOf(text []byte, at, above lang.Span) (all []lang.Ref, open bool) {
	line, start := at.In(text), int(at.Start)
	add := func(at lang.Span) {
		if at.Len() > 0 {
			all = append(all, lang.Ref{Kind: lang.Anchor, Name: strings.ReplaceAll(string(at.In(text)), "`", ""), Span: at})
		}
	}
	for _, m := range byHand.Get().FindAllSubmatchIndex(line, -1) {
		for i := 2; i < len(m); i += 2 {
			if m[i] >= 0 {
				add(lang.At(start+m[i], start+m[i+1]))
			}
		}
	}
	if m := heading.Get().FindSubmatchIndex(line); m != nil {
		add(lang.At(start+m[2], start+m[3]))
	} else if above.Len() > 0 && underline.MatchString(string(line)) {
		add(above)
	}
	return all, filledIn.MatchString(string(line))
}

// named gives what links to headings of a document are, written as most programs do, by their letters and digits.
func named(l *lang.Look, at string) map[string]string {
	return lang.Once(l, "headings of "+at, func() map[string]string {
		all := map[string]string{}
		for _, a := range l.Of(at).Of(lang.Anchor) {
			said, _, _ := strings.Cut(a.Name, "{#")
			said = tag.Get().ReplaceAllString(linked.Get().ReplaceAllString(said, "$1"), "")
			if name := bare(said); name != "" && all[name] == "" {
				all[name] = slug(said)
			}
		}
		return all
	})
}

// bare gives the letters and digits of a heading or a fragment, in small letters.
func bare(name string) string { return kept(name, "") }

// slug writes the anchor of a heading as most programs have it.
func slug(heading string) string {
	return kept(strings.ReplaceAll(strings.TrimSpace(heading), " ", "-"), "-_")
}

// kept gives a text in small letters without marks but some.
func kept(text, marks string) string {
	return strings.Map(func(r rune) rune {
		picture := '\ufe00' <= r && r <= '\ufe0f' // how the one before is shown
		if names.WordRune(r) || unicode.IsMark(r) && !picture || strings.ContainsRune(marks, r) {
			return unicode.ToLower(r)
		}
		return -1
	}, text)
}

// mostLetters is in how many letters a heading differs from what somebody called it by mistake.
const mostLetters = 2

// within says of a link to a document that is there whether the place that it names is there, too.
func within(l *lang.Look, ref lang.Ref, answer lang.Answer) lang.Answer {
	_, fragment, _ := strings.Cut(ref.Name, "#")
	plain, err := url.PathUnescape(fragment)
	if err != nil || len(answer.To) != 1 || !slices.Contains(endings, path.Ext(answer.To[0])) || strings.ContainsAny(plain, ":=/{}<>") || ofLines.MatchString(plain) {
		return answer
	}
	asked := bare(plain)
	if asked == "" || asked == "top" || l.Of(answer.To[0]).Open {
		return answer
	}
	known := named(l, answer.To[0])
	for name := range known {
		// Of several headings with the same words all but the first have a number.
		rest, same := strings.CutPrefix(asked, name)
		_, err := strconv.Atoi(rest)
		if same && (rest == "" || err == nil) || strings.HasPrefix(name, asked) { // what stands behind may be left out
			return answer
		}
	}
	if near := names.Closest(asked, slices.Sorted(maps.Keys(known))); near != "" && (names.Mistyped(asked, near) || names.Distance(near, asked) <= min(mostLetters, len(near)/4)) && names.DigitsIn(near) == names.DigitsIn(asked) {
		answer.Own, answer.Near, answer.Within, answer.Sought = true, true, answer.To[0], []string{answer.To[0] + "#" + plain}
		answer.Meant = known[near]
	}
	return answer
}
