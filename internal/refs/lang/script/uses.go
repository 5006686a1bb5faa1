package script

import (
	"bytes"
	"slices"
	"strings"

	"dicaxon/internal/lazy"
	"dicaxon/internal/refs/lang"
)

// keywords are no names: ECMAScript 2024, clause 12.7.2, with those of its types.
var keywords = lang.SetOf(`async await break case catch class const continue debugger default delete do else enum export
	extends false finally for function if implements import in instanceof interface let new null of package private
	protected public return satisfies static super switch this throw true try type typeof undefined var void while with
	yield as keyof infer readonly declare namespace module abstract arguments constructor
	string number boolean any unknown never object symbol bigint undefined`)

// globals are given to a script by what runs it, or by what runs tests.
var globals = lang.SetOf(`__dirname __filename alert atob btoa blur cancelAnimationFrame clearImmediate clearInterval clearTimeout close closed confirm
	console crypto customElements decodeURI decodeURIComponent devicePixelRatio dispatchEvent document encodeURI
	encodeURIComponent escape eval event exports external fetch find focus frames getComputedStyle getSelection global globalThis
	history importScripts indexedDB isFinite isNaN isSecureContext length localStorage location matchMedia name navigator
	onload open opener origin parent parseFloat parseInt performance postMessage print process prompt queueMicrotask
	removeEventListener addEventListener reportError requestAnimationFrame requestIdleCallback require resizeTo screen scroll
	scrollBy scrollTo self sessionStorage setImmediate setInterval setTimeout status stop structuredClone top unescape window
	describe it test expect before after beforeEach afterEach beforeAll afterAll suite context specify setup teardown vi jest
	jasmine spyOn fail pending xit xdescribe fit fdescribe cy Cypress browser page sinon chai should assert mocha element by
	protractor inject angular jQuery Backbone Marionette Handlebars React ReactDOM Vue Ember moment lodash gapi google
	defineProps defineEmits defineExpose defineModel defineOptions defineSlots withDefaults definePageMeta chrome Deno Bun
	Array ArrayBuffer Atomics BigInt Blob Boolean Buffer Date Error Event EventSource EventTarget File FileReader FormData
	Function Headers Image Infinity Int8Array Intl JSON Map Math MutationObserver NaN Node Notification Number Object Option
	Promise Proxy Reflect RegExp Request Response Set String Symbol Text Uint8Array URL URLSearchParams WeakMap WeakRef WeakSet
	WebAssembly WebSocket Worker XMLHttpRequest AbortController AbortSignal Element HTMLElement Document Window
	AggregateError EvalError RangeError ReferenceError SyntaxError TypeError URIError DataView SharedArrayBuffer
	FinalizationRegistry Iterator Float32Array Float64Array BigInt64Array BigUint64Array Int16Array Int32Array
	Uint8ClampedArray Uint16Array Uint32Array TextEncoder TextDecoder ReadableStream WritableStream TransformStream
	BroadcastChannel MessageChannel MessagePort CustomEvent DOMException DOMParser XMLSerializer IntersectionObserver
	Animation Attr CharacterData ClipboardEvent Comment DataTransfer DocumentFragment DOMRect DragEvent ErrorEvent FocusEvent
	FileList HashChangeEvent History InputEvent KeyboardEvent Location MediaQueryList MediaRecorder MediaStream MessageEvent
	MouseEvent MutationRecord NamedNodeMap Navigator NodeFilter NodeList PointerEvent PopStateEvent ProgressEvent
	PromiseRejectionEvent Range Screen Selection ServiceWorker ShadowRoot SharedWorker Storage StorageEvent StyleSheet
	SubmitEvent Touch TouchEvent TransitionEvent TreeWalker UIEvent WheelEvent
	ResizeObserver PerformanceObserver CSS Audio Path2D OffscreenCanvas ImageData CompressionStream DecompressionStream
	Record Partial Required Readonly Pick Omit Exclude Extract NonNullable Parameters ReturnType Awaited InstanceType
	ConstructorParameters ThisType Uppercase Lowercase Capitalize Uncapitalize JSX NodeJS Iterable PromiseLike ArrayLike`)

// binders stand before a name that they give something to; askers before one that is used.
var (
	binders = lang.SetOf("const let var function class interface type enum import as namespace async get set static catch")
	askers  = lang.SetOf("new extends instanceof return await of in typeof default case throw yield")
)

// uses finds out which names a module uses, in its text and in that with its comments and texts
// gone. What is no module may be given names by another script of its page.
func uses(text, code []byte, refs []lang.Ref) lang.Uses {
	imports := slices.ContainsFunc(refs, func(r lang.Ref) bool { return r.Kind == lang.Import })
	if !imports && !bytes.Contains(code, []byte("export ")) && !bytes.Contains(code, []byte("exports")) && !isProgram(text, code) {
		return lang.Uses{}
	}
	wholes, known := map[string]lang.Span{}, []knownAs{}
	for _, r := range refs {
		if !likeOwn(r.Name) {
			continue
		}
		name := localName(text, r)
		if name == "" {
			continue
		}
		wholes[name] = r.Span
		if IsOne(r) {
			wholes[name] = r.ValueSpan
		}
		known = append(known, knownAs{name, r.Span})
	}
	if bytes.Contains(code, noBreak) { // which is a space there: ECMAScript 2024, clause 12.2
		code = bytes.ReplaceAll(code, noBreak, []byte("  "))
	}
	markup := bytes.Contains(code, []byte("</")) || bytes.Contains(code, []byte("/>"))
	found := lang.FindUses(code, wholes, func(w *lang.Word) lang.Place { return placeOf(w, markup) })
	found.Members = append(found.Members, awaited(code, refs)...)
	found.Idle = idle(text, known)
	return found
}

var noBreak = []byte("\u00a0")

// isProgram says whether a text is a program that Node.js starts, and no script of a page.
func isProgram(text, code []byte) bool {
	first, _, _ := bytes.Cut(text, []byte("\n"))
	return bytes.HasPrefix(first, []byte("#!")) && bytes.Contains(first, []byte("node")) ||
		bytes.Contains(code, []byte("process.argv")) || bytes.Contains(code, []byte("process.exit("))
}

// handed is what stands behind a module that is imported while the program runs, where a function is
// handed the module and gives one name of it.
var handed = lazy.New(`^.\s*\)\s*\.then\(\s*\(?\s*(\w+)\s*\)?\s*=>\s*(?:\(\s*\{\s*default\s*:\s*)?(\w+)\.(\w+)`)

// awaited finds the names that are taken of modules once those are there.
func awaited(code []byte, refs []lang.Ref) (all []lang.Member) {
	for _, r := range refs {
		end := int(r.Span.End)
		if r.Kind != lang.Import || !likeOwn(r.Name) || end >= len(code) {
			continue
		}
		m := handed.Get().FindSubmatchIndex(code[end:min(len(code), end+200)])
		if m != nil && bytes.Equal(code[end+m[2]:end+m[3]], code[end+m[4]:end+m[5]]) {
			all = append(all, lang.Member{Of: r.Span, Name: string(code[end+m[6] : end+m[7]]), Span: lang.At(end+m[6], end+m[7])})
		}
	}
	return all
}

// likeOwn says whether the name of a module may be one of the project's own.
func likeOwn(module string) bool { return module != "" && strings.IndexByte(".@~#$/", module[0]) >= 0 }

// A knownAs is a name that an import binds, with the span of the module that it names.
type knownAs struct {
	name string
	of   lang.Span
}

// idle gives the imports of whose names none is met again in the text.
func idle(text []byte, known []knownAs) (all []lang.Span) {
	if len(known) == 0 {
		return nil
	}
	times := map[string]int{}
	for _, k := range known {
		times[k.name] = 0
	}
	countIn(text, times)
	met := map[lang.Span]bool{}
	for _, k := range known {
		inside := map[string]int{k.name: 0} // the path of a module may hold its name
		countIn(k.of.In(text), inside)
		met[k.of] = met[k.of] || times[k.name]-inside[k.name] > 1
	}
	for _, k := range known {
		if !met[k.of] {
			all, met[k.of] = append(all, k.of), true
		}
	}
	return all
}

// countIn counts how often those words stand in a text that are counted.
func countIn(text []byte, times map[string]int) {
	for i := 0; i < len(text); i++ {
		if !lang.WordByte(text[i]) {
			continue
		}
		start := i
		for i < len(text) && lang.WordByte(text[i]) {
			i++
		}
		if n, counted := times[string(text[start:i])]; counted {
			times[string(text[start:i])] = n + 1
		}
	}
}

// localName gives the name by which what an import takes is known in its text, "" for none.
func localName(text []byte, r lang.Ref) string {
	if r.Kind != lang.Import || r.Quote == 0 || r.Span.Len() == 0 {
		return ""
	}
	if r.Value == "" {
		return loaded(text, r)
	}
	start := bytes.LastIndexAny(text[:r.ValueSpan.Start], ";\n{")
	for start > 0 && text[start] != ';' && !bytes.Contains(text[start:r.ValueSpan.Start], []byte("import")) && !bytes.Contains(text[start:r.ValueSpan.Start], []byte("const")) && int(r.ValueSpan.Start)-start < 2000 {
		start = bytes.LastIndexAny(text[:start], ";\n{")
	}
	if bytes.Contains(text[max(0, start):r.ValueSpan.Start], []byte("export")) {
		return ""
	}
	words := bytes.Fields(r.ValueSpan.In(text))
	if len(words) == 0 {
		return ""
	}
	rest := bytes.TrimLeft(text[r.ValueSpan.End:], " \t\r\n")
	for _, mark := range []string{"as ", ":"} { // under another name
		if behind, ok := bytes.CutPrefix(rest, []byte(mark)); ok {
			return firstWord(behind)
		}
	}
	name := string(words[len(words)-1])
	if name == "*" {
		return ""
	}
	return name
}

// loaded gives the name that what a call loads is given, as in const a = require('./b'), "" for none.
func loaded(text []byte, r lang.Ref) string {
	before, ok := beforeCall(text[:max(0, r.Span.Start-1)])
	if !ok || goesOn(text[min(len(text), int(r.Span.End)+1):]) {
		return ""
	}
	start := len(before)
	for start > 0 && lang.WordByte(before[start-1]) {
		start--
	}
	given := lang.TrimEnd(before[:start])
	for _, word := range []string{"const", "let", "var"} {
		if bytes.HasSuffix(given, []byte(word)) {
			return string(before[start:])
		}
	}
	return ""
}

// firstWord gives the word that a text begins with, behind spaces.
func firstWord(text []byte) string {
	text = bytes.TrimLeft(text, " \t\r\n")
	n := 0
	for n < len(text) && lang.WordByte(text[n]) {
		n++
	}
	return string(text[:n])
}

// placeOf says what a word is where it stands, in code that may hold markup.
func placeOf(w *lang.Word, markup bool) lang.Place {
	word := w.Text()
	if w.OfAnother() || len(word) < 2 || keywords()[string(word)] || globals()[string(word)] {
		return lang.Elsewhere
	}
	previous := string(w.Previous())
	upper := word[0] >= 'A' && word[0] <= 'Z'
	follows := func(signs string) bool { return w.After == 0 || strings.IndexByte(signs, w.After) >= 0 }
	switch {
	case binders()[previous]:
		return lang.Bound
	case markup && inProse(w):
		return lang.Elsewhere
	case upper && (w.Before == '<' || w.Before == ',') && isParameter(w):
		return lang.Bound
	case (w.Before == '{' || w.Before == ',') && bytes.HasPrefix(w.Code[w.End:], []byte(" as ")):
		return lang.Elsewhere // it is taken under another name
	case w.After == ':' && (w.Before == '{' || w.Before == ','):
		return lang.Bound // a key, or what is given under another name
	case upper && isTag(w):
		return lang.Used
	case w.After == '.' && !bytes.HasPrefix(w.Code[w.End:], []byte("...")), w.After == '`':
		return lang.Used
	case w.Next() == '(':
		if behind := w.Behind(w.End); behind == nil || declares(behind) {
			return lang.Bound
		}
		return lang.Used
	case upper && w.Before == ':' && follows(",)=;{}[|&\n>") && !takenApart(w):
		return lang.Used // a type
	case w.After == '=' || w.After == ':' || w.After == '(':
		return lang.Bound
	case askers()[previous] && follows(";,)}]\n(.["):
		return lang.Used
	case isValue(w) && follows(";,)}\n"):
		return lang.Used
	case (w.Before == '{' || w.Before == ',') && (w.After == '}' || w.After == ',') && inObject(w):
		return lang.Used
	case w.Before == '{' && w.After == '}' && bytes.HasSuffix(w.Leading(w.Start), []byte("={")):
		return lang.Used
	case (w.Before == '(' || w.Before == ',') && (w.After == ')' || w.After == ','):
		return argument(w)
	}
	return lang.Unclear
}

// isTag says whether a word is the name of an element, where that begins or ends.
func isTag(w *lang.Word) bool {
	before := w.Code[:w.Start]
	return bytes.HasSuffix(before, []byte("<")) || bytes.HasSuffix(before, []byte("</"))
}

// isValue says whether a word is what a name is given, or what a function gives.
func isValue(w *lang.Word) bool {
	return w.Before == '=' || w.Before == '>' && bytes.HasSuffix(w.Leading(w.Start), []byte("=>"))
}

// declares says whether what stands behind a pair of brackets makes it the one of a declaration.
func declares(behind []byte) bool {
	return len(behind) > 0 && (behind[0] == '{' || behind[0] == ':') || bytes.HasPrefix(behind, []byte("=>"))
}

// takenApart says whether a name stands between braces that take something apart, as in
// const { a: Name } = b.
func takenApart(w *lang.Word) bool { return inBraces(w, "(", ",", "const", "let", "var", "{", "[") }

// inObject says whether a name between braces is a value that an object is given by its name.
func inObject(w *lang.Word) bool { return inBraces(w, "=", "return", "components:") }

// inBraces says whether a name stands between braces behind one of some signs.
func inBraces(w *lang.Word, signs ...string) bool {
	at, open := w.Around()
	before := w.Leading(at)
	return open == '{' && slices.ContainsFunc(signs, func(sign string) bool { return bytes.HasSuffix(before, []byte(sign)) })
}

// isParameter says whether a name between angle brackets stands for any type.
func isParameter(w *lang.Word) bool {
	if firstWord(w.Code[w.End:]) == "extends" || w.After == '=' {
		return true
	}
	if w.Before != '<' {
		return false
	}
	_, declared := w.Called(w.Start - len(w.Code[:w.Start]) + len(bytes.TrimRight(w.Code[:w.Start], " \t\r\n")) - 1)
	return slices.Contains([]string{"interface", "type", "class", "function"}, string(declared))
}

// argument says whether a name between brackets is handed over, or taken.
func argument(w *lang.Word) lang.Place {
	at, open := w.Around()
	if open != '(' {
		return lang.Bound
	}
	name, before := w.Called(at)
	if behind := w.Behind(at); len(name) == 0 || keywords()[string(name)] || string(before) == "function" || behind == nil || declares(behind) {
		return lang.Bound
	}
	return lang.Used
}

// inProse says whether a word stands in the text between two tags.
func inProse(w *lang.Word) bool {
	for i := w.Start - 1; i > max(0, w.Start-500); i-- {
		switch c := w.Code[i]; c {
		case '{', '}', ';', '=', '<':
			return false
		case '>':
			return strings.IndexByte("=- (", w.Code[i-1]) < 0 && w.Code[i+1] != '('
		}
	}
	return false
}
