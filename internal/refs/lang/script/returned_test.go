package script

import (
	"strings"
	"testing"
)

// TestReturnsOf reads what functions return, each beside what may return anything.
func TestReturnsOf(t *testing.T) {
	for what, c := range map[string]struct{ code, has, hasNot string }{
		"a function": {"export function useTide() {\n  const high = 1\n  return { high, low: 2, 'sea': 3, turn() {} }\n}\n", "high low turn", "ebb"},
		"one with types": {
			"export function useTide<T>(of: { a: T }, at = (x) => 1): Tide<T> {\n  if (of) {\n    return { high: 1 }\n  }\n  return { low: 2 }\n}\n", "high low", "of",
		},
		"one that another function within returns for": {"export const useTide = (at) => {\n  const one = () => { return at }\n  return { one }\n}\n", "one", "at"},
		"a short one":                {"export const useTide = () => ({ high: 1, low })\n", "high low", "ebb"},
		"a store with a function":    {"export const useTides = defineStore('tides', () => {\n  const all = ref([])\n  return { all, load }\n})\n", "all load", "none"},
		"a store with options":       {"export const useTides = defineStore('tides', {\n  state: (): State => ({ all: [], day: 1 }),\n  getters: { next: (s) => s.all[0] },\n  actions: {\n    async load() {\n      return 1\n    },\n  },\n})\n", "all day next load", "lode"},
		"a store whose state is run": {"export const useTides = defineStore('tides', {\n  state() {\n    return { all: [] }\n  },\n})\n", "all", "none"},
	} {
		has := ReturnsOf([]byte(c.code), "useTide"+strings.Repeat("s", strings.Count(c.code, "useTides")))
		for _, name := range strings.Fields(c.has) {
			if !has.Has(name) {
				t.Errorf("%s: %s is not in it", what, name)
			}
		}
		if len(has) == 0 || has.Has(c.hasNot) {
			t.Errorf("%s: it may have %s", what, c.hasNot)
		}
	}
	for what, code := range map[string]string{
		"what others have":          "export function useTide() {\n  return { ...all() }\n}\n",
		"what it was given":         "export function useTide(x) {\n  return x\n}\n",
		"either":                    "export function useTide(x) {\n  if (x) return x\n  return { a }\n}\n",
		"names that are worked out": "export function useTide(x) {\n  return { [x]: 1 }\n}\n",
		"what a call makes":         "export const useTide = create((set) => ({ a: 1 }))\n",
		"a promise":                 "export async function useTide() {\n  return { a }\n}\n",
		"one that is not exported":  "function useTide() {\n  return { a }\n}\n",
		"two of one name":           "export function useTide(a: number): A\nexport function useTide(a) {\n  return { a }\n}\n",
		"options of another":        "export const useTide = defineStore('t', { state: make, actions: { go() {} } })\n",
		"a text that breaks off":    "export function useTide() {\n  return { a\n",
		"one within a store":        "export const useTide = defineStore('tide', ",
		"one at its end":            "export const useTide = ",
		"nothing":                   "export function useTide() {\n  go()\n}\n",
	} {
		if has := ReturnsOf([]byte(code), "useTide"); len(has) > 0 {
			t.Errorf("%s: it is read", what)
		}
	}
}
