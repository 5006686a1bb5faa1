package rules

import (
	"strings"
	"testing"
)

// javaTypes and scriptTypes are the rule as languages have it whose types stand before and behind a thing.
const (
	javaTypes = `- rule: own-members
  files: "**/*.kt"
  types: [class, interface, record]
  bases: '\b(?:extends|implements)\s+([\w.]+(?:\s*,\s*[\w.]+)*)'
  gives: ['(?m)^[ \t]*(?:(?:public|private|static|final)\s+)*[\w<>]+\s+(\w+)\s*[(;=]', '[\w>]\s+(\w+)\s*[,)]']
  open: '\babstract\b|@Data\b'
  plain: '^Serializable$'
  interfaces: '\binterface\s'
  asks: '(\w+)\s*\([^()]*\)\s*;'
  unless: '\bsealed\b'
  typed: before`
	scriptTypes = `- rule: own-members
  files: "**/*.kt"
  types: [class, interface]
  bases: '\b(?:extends|implements)\s+([\w.]+(?:\s*,\s*[\w.]+)*)'
  gives: '(?m)^[ \t]*(?:async\s+)?(\w+)[?!]?\s*[(:;=]'
  interfaces: '\binterface\s'
  asks: '(?m)^[ \t]*(\w+)\s*[(:]'
  typed: after`
)

// What is told of the types of a project, of what their interfaces ask and of what code asks of things.
func init() {
	tides := "interface Tides {\n  Tide next(int from);\n  default Tide last() { return next(0); }\n}\n"
	cases = append(cases, []ruled{
		{"a class that lacks what its interface asks", javaTypes, files{
			"Tides.kt": tides, "Almanac.kt": "class Almanac implements Tides, java.io.Serializable {\n  public Tide nxet(int from) { return null; }\n}\n",
			"Whole.kt": "class Whole implements Tides {\n  public Tide next(int from) { return null; }\n}\n",
		}, []string{"dangling Almanac.kt:1"}},
		{"a class that may get it from elsewhere", javaTypes, files{
			"Tides.kt": tides, "Base.kt": "class Base {\n  public Tide next(int from) { return null; }\n}\n",
			"A.kt": "class A extends Base implements Tides {\n}\n", "B.kt": "class B extends Others implements Tides {\n}\n",
			"C.kt": "abstract class C implements Tides {\n}\n", "D.kt": "@Data\nclass D implements Tides {\n}\n", "E.kt": "record E(Tide next) implements Tides {\n}\n",
		}, nil},
		{"interfaces of one name, and one that gives by itself", javaTypes, files{
			"a/Tides.kt": tides, "b/Tides.kt": "interface Tides {\n  Tide low();\n}\n", "a/A.kt": "class A implements Tides {\n}\n",
			"Sea.kt": "interface Sea {\n  int depth();\n  sealed int x();\n}\n", "B.kt": "class B implements Sea {\n}\n", "Half.kt": "class Half implements Sea",
		}, nil},
		{"interfaces of others that are called like one of the project", javaTypes, files{
			"a/Tides.kt": "package a\n" + tides, "b/A.kt": "package b\nimport other.Tides\nclass A implements Tides {\n}\n", "b/B.kt": "package b\nclass B implements Tides {\n}\n",
			"b/C.kt": "package b\nimport a.Tides\nclass C implements Tides {\n}\n", "a/Sea.kt": "package a\nclass Sea {}\n", "b/D.kt": "package b\nimport a.Sea as Tides\nclass D implements Tides {\n}\n", "b/E.kt": "package b\ninterface E extends Tides {\n  int more();\n}\n",
		}, []string{"dangling b/C.kt:3"}},
		{"namespaces that a file of C# sees", strings.ReplaceAll(javaTypes, ".kt", ".cs"), files{
			"a/Tides.cs": "namespace Sea.A;\n" + tides, "b/A.cs": "namespace Sea.B;\nclass A implements Tides {\n}\n", "b/B.cs": "namespace Sea.B;\nusing Sea.A;\nclass B implements Tides {\n}\n",
			"c/C.cs": "namespace Sea.A.C;\nclass C implements Tides {\n}\n",
		}, []string{"dangling b/B.cs:3", "dangling c/C.cs:2"}},
		{"namespaces that all files see", strings.ReplaceAll(javaTypes, ".kt", ".cs"), files{
			"a/Tides.cs": "namespace Sea.A;\n" + tides, "b/A.cs": "namespace Sea.B;\nclass A implements Tides {\n}\n", "Usings.cs": "global using Sea.A;\n",
		}, []string{"dangling b/A.cs:2"}},
		{"what a type has itself", javaTypes, files{
			"Sea.kt": "class Sea {\n  static final int DEEPEST = 1;\n}\n", "A.kt": "class A {\n  int a = Sea.DEEPSET;\n  int b = Sea.DEEPEST;\n  int c = other.Sea.DEEPSET;\n}\n",
		}, []string{"dangling A.kt:2"}},
		{"what a thing has under nearly that name", javaTypes, files{
			"Tides.kt": tides, "A.kt": "class A {\n  private final Tides tides;\n  A(Tides tides) { this.tides = tides; }\n  void go() {\n    this.tides.nxet(1);\n    tides.next(1);\n    tides.hashCode();\n    log(\"tides.nextt\");\n  }\n}\n",
		}, []string{"dangling A.kt:5"}},
		{"things whose types nobody can tell", javaTypes, files{
			"Tides.kt": tides, "A.kt": "class A {\n  void a(Tides it) {}\n  void b(Other it) { it.nxet(1); }\n  void c(Tides to) { all.forEach(to -> to.nxet(1)); }\n  void d(Tides at) { var at = x; at.nxet(1); }\n  void e(List<Tides> of) { of.nxet(1); other.of.nxet(1); f().nxet(1); }\n}\n",
		}, nil},
		{"what others bring is told of only where it is surely mistyped", javaTypes, files{
			"Sea.kt": "class Sea extends Others {\n  int depths() { return 1; }\n  int harbour() { return 1; }\n}\n", "A.kt": "class A {\n  int a(Sea sea) { return sea.depth(); }\n  int b(Sea sea) { return sea.harbuor(); }\n}\n",
		}, []string{"dangling A.kt:3"}},
		{"types behind things", scriptTypes, files{
			"tides.kt": "export interface Tides {\n  next(\n    from: number,\n  ): Tide\n  low?: number\n}\n", "a.kt": "class Almanac implements Tides {\n  nextt(from: number) { return null }\n}\n",
			"b.kt": "function go(tides: Tides, all: Tides[], other?: Tides | null) {\n  tides.nxet(1)\n  all.nxet(1)\n  other.nxet(1)\n}\nconst f = (tide: Tides) => 1\nconst g = (tide, x) => tide.nxet(1)\n",
		}, []string{"dangling a.kt:1", "dangling b.kt:2"}},
		{"names with what their file says before them", "- {rule: names, files: '**/*.page', of: ['(\\w+)/[^/]+\\.page$', '^of (\\w+)'], by: 'asks (\\w+)', in: '**/*.list', owner: '^group (\\w+)', defined: '^has (\\w+)', file-is-group: true, groups-there: true}", files{
			"tides/a.page": "asks high\nasks low\n", "b.page": "of tides\nasks hihg\n", "c.page": "of crews\nasks low\n", "d.page": "asks none\n", "tides.list": "group tides\nhas high\n", "more.list": "group other\nhas low\n",
		}, []string{"dangling b.page:2", "dangling tides/a.page:2"}},
		{"a name in a part that has but one", "- {rule: names, files: '*.list', inside: 'a.*', by: ':(\\w+)', there: '<(\\w+)>'}", files{"x.list": "a :tide <tide>\na :hihg <high> <high>\na :one <b> <c>\n"}, []string{"dangling x.list:2", "dangling x.list:3"}},
		{"a version that all files anywhere ask for", "- {rule: at-least, files: Dockerfile, by: 'sea:([\\d.]+)', asks: '**/*.sea~<v>([\\d.]+)<'}", files{
			"Dockerfile": "FROM sea:8.0\n", "a/a.sea": "<v>9.0<", "b/b.sea": "<v>9.0<", "c/c.sea": "none",
		}, []string{"disagrees Dockerfile:1"}},
		{"versions that differ", "- {rule: at-least, files: Dockerfile, by: 'sea:([\\d.]+)', asks: '**/*.sea~<v>([\\d.]+)<'}", files{
			"Dockerfile": "FROM sea:8.0\n", "a/a.sea": "<v>9.0<", "b/b.sea": "<v>8.0<",
		}, nil},
		{"counterparts that most have", "- {rule: paired, files: '**/*.step', mirrored-in: '{}.half', mostly: true}", files{
			"a.step": "x\n", "a.half": "x\n", "b.step": "x\n",
		}, []string{"unpaired b.step"}},
		{"counterparts that few have", "- {rule: paired, files: '**/*.step', mirrored-in: '{}.half', mostly: true}", files{
			"a.step": "x\n", "a.half": "x\n", "b.step": "x\n", "c.step": "x\n",
		}, nil},
	}...)
}

// What modules give the classes that are theirs.
func init() {
	const rule = `- rule: provided
  files: "**/*.module.ts"
  class: '\bexport\s+class\s+(\w+)'
  has: [providers, controllers]
  imports: [imports]
  exports: [exports]
  asks: ['\bprivate\s+\w+\s*:\s*(\w+)', '@Inject\((\w+)\)']
  everywhere: '@Global\(\)'`
	tides := "@Module({ providers: [TidesService, { provide: SOURCE, useClass: Table }], exports: [TidesService] })\nexport class TidesModule {}\n"
	crews := func(lists string) string {
		return "import { CrewsService } from './crews.service'\n@Module({ " + lists + " })\nexport class CrewsModule {}\n"
	}
	asking := "export class CrewsService {\n  constructor(private tides: TidesService) {}\n}\n"
	cases = append(cases, []ruled{
		{"a module that does not import what it asks for", rule, files{"tides.module.ts": tides, "crews.module.ts": crews("providers: [CrewsService]"), "crews.service.ts": asking}, []string{"unwired crews.service.ts:2"}},
		{"a module that does", rule, files{"tides.module.ts": tides, "crews.module.ts": crews("imports: [TidesModule], providers: [CrewsService]"), "crews.service.ts": asking}, nil},
		{"what a module does not hand on", rule, files{
			"tides.module.ts": tides, "crews.module.ts": crews("imports: [TidesModule], providers: [CrewsService]"), "crews.service.ts": "export class CrewsService {\n  constructor(@Inject(SOURCE) source) {}\n}\n",
		}, []string{"unwired crews.service.ts:2"}},
		{"what comes by another, or to all", rule, files{
			"tides.module.ts": tides, "sea.module.ts": "@Module({ imports: [TidesModule], exports: [TidesModule] })\nexport class SeaModule {}\n", "crews.module.ts": crews("imports: [SeaModule], providers: [CrewsService]"), "crews.service.ts": asking,
			"b/all.module.ts": "@Global()\n@Module({ providers: [Log], exports: [Log] })\nexport class AllModule {}\n", "b/use.module.ts": "import { Use } from './use'\n@Module({ controllers: [Use] })\nexport class UseModule {}\n", "b/use.ts": "export class Use {\n  constructor(private log: Log) {}\n}\n",
		}, nil},
		{"modules whose lists nobody can read", rule, files{"tides.module.ts": tides, "crews.module.ts": crews("imports: [...all], providers: [CrewsService]"), "b.module.ts": "@Module({ providers: all })\nexport class B {}\n", "crews.service.ts": asking}, nil},
		{"settings of the application that are called as those of tools", "- {rule: env-keys}", files{
			".env.example": "PORT=\n", "package.json": "{}", "src/app.config.ts": "export default () => ({ a: process.env.TIDE_URL, b: process.env.PORT })\n", "vite.config.ts": "export default { a: process.env.TOOL }\n",
		}, []string{"disagrees src/app.config.ts:1"}},
	}...)
}

// TestHeadAndBody cuts types where their heads end, whatever brackets they have.
func TestHeadAndBody(t *testing.T) {
	for code, want := range map[string][2]string{
		"A(int x) { b { c } } d": {"A(int x) ", " b { c } "}, "A(int x); {": {"A(int x)", ""}, "A([X(1)] int x = f(;)) {}": {"A([X(1)] int x = f(;)) ", ""}, "A { b": {"A ", " b"}, "A": {"", ""},
	} {
		head, body := headAndBody([]byte(code))
		if string(head) != want[0] || string(body) != want[1] {
			t.Errorf("%s: %q and %q", code, head, body)
		}
	}
}

// TestTypesOfThings reads the type that stands before the last thing called tides.
func TestTypesOfThings(t *testing.T) {
	for code, want := range map[string]string{
		"Tides tides;": "Tides", "(Tides? tides)": "Tides", "Tides<A, B> tides)": "Tides", "return tides;": "", "?Tides|Crews $tides)": "", "?Tides $tides)": "Tides", "Tides tides.x": "", "tides": "", "for (Tides tides in all": "Tides",
	} {
		at := strings.LastIndex(code, "tides")
		if of, _ := typeBefore([]byte(code), at, at+len("tides")); of != want {
			t.Errorf("%s: %q", code, of)
		}
	}
}
