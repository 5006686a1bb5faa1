package app_test

import "testing"

const reducers = `-- package.json --
{"name": "ferry", "type": "module"}
-- src/actions.js --
export const ASKED = 'asked';
export const LEFT = 'left';
-- src/index.js --
import { ships } from './reducers.js';
import all from './reducers.js';
console.log(ships, all);
-- src/reducers.js --
import { ASKED, LEFT } from './actions.js';

const start = [];

export function tides(state = start, action) {
  return action.type === ASKED ? [` + "`" + `x
y` + "`" + `] : state;
}

// Ships that are here.
export const ships = (state = {}, action) => {
  return action.type === LEFT ? {} : state;
};

export default { tides };
`

// TestCutsOfScripts does so with scripts, and with files of Go.
func TestCutsOfScripts(t *testing.T) {
	cuts{
		"a reducer": {reducers, "src/reducers.js#ships", "src/ships/reducer.js", `-- src/index.js --
import { ships } from './ships/reducer.js';
import all from './reducers.js';
console.log(ships, all);
-- src/reducers.js --
import { ASKED } from './actions.js';

const start = [];

export function tides(state = start, action) {
  return action.type === ASKED ? [` + "`" + `x
y` + "`" + `] : state;
}

export default { tides };
-- src/ships/reducer.js --
import { LEFT } from '../actions.js';

// Ships that are here.
export const ships = (state = {}, action) => {
  return action.type === LEFT ? {} : state;
};
`, ""},
		"a reducer that the file uses, with its start": {reducers, "src/reducers.js#tides", "src/tides.js", `-- src/reducers.js --
import { LEFT } from './actions.js';
import { tides } from './tides.js';

// Ships that are here.
export const ships = (state = {}, action) => {
  return action.type === LEFT ? {} : state;
};

export default { tides };
-- src/tides.js --
import { ASKED } from './actions.js';

const start = [];

export function tides(state = start, action) {
  return action.type === ASKED ? [` + "`" + `x
y` + "`" + `] : state;
}
`, ""},
		"a type of Go with its methods": {`-- a.go --
package a

import (
	"fmt"
	"strings"
)

// A T has a name.
type T struct{ name string }

var all = []T{} // of them

// Name gives it.
func (t *T) Name() string { return strings.ToUpper(t.name) }

func F() { fmt.Println(all) }
-- go.mod --
module x.example/x
`, "a.go#T", "t.go", `-- a.go --
package a

import (
	"fmt"
)

var all = []T{} // of them

func F() { fmt.Println(all) }
-- t.go --
package a

import "strings"

// A T has a name.
type T struct{ name string }

// Name gives it.
func (t *T) Name() string { return strings.ToUpper(t.name) }
`, ""},
		"a type, which is handed on as one": {`-- package.json --
{}
-- src/all.ts --
export * from './types';
-- src/types.ts --
export interface Berth {
  number: number;
}

export const depth = 3;
-- src/use.ts --
import { type Berth, depth as deep } from "./types"
export const all: Berth[] = [{ number: deep }];
-- tsconfig.json --
{}
`, "src/types.ts#Berth", "src/berth.ts", `-- src/berth.ts --
export interface Berth {
  number: number;
}
-- src/types.ts --
export type { Berth } from './berth';

export const depth = 3;
-- src/use.ts --
import { type Berth } from "./berth"
import { depth as deep } from "./types"
export const all: Berth[] = [{ number: deep }];
`, ""},
		"all that imports": {`-- a.go --
package a

import "fmt"

var A = 1

func F() { fmt.Println(A) }
-- go.mod --
module x.example/x
`, "a.go#F", "f.go", `-- a.go --
package a

var A = 1
-- f.go --
package a

import "fmt"

func F() { fmt.Println(A) }
`, ""},
		"into another package": {`-- a.go --
package a

var A = 1
-- go.mod --
module x.example/x
`, "a.go#A", "b/b.go", "", "goes to another one beside it"},
		"one of a group": {`-- a.go --
package a

var (
	A = 1
	B = 2
)
-- go.mod --
module x.example/x
`, "a.go#A", "b.go", "", "declares others in one group with it"},
		"one of several in a line": {`-- a.js --
export const a = 1, b = 2;
-- package.json --
{}
`, "a.js#a", "c.js", "", "it declares no a"},
		"what a script does with what goes": {`-- app.js --
import { tides } from './routes.js';
-- package.json --
{}
-- routes.js --
import { Router } from 'express';

const list = (asked, answer) => answer.json([]);

export const tides = Router();
tides.get('/', list);

export const quays = Router();
quays.get('/', (asked, answer) => answer.end());
`, "routes.js#tides", "tides.js", `-- app.js --
import { tides } from './tides.js';
-- routes.js --
import { Router } from 'express';

export const quays = Router();
quays.get('/', (asked, answer) => answer.end());
-- tides.js --
import { Router } from 'express';

const list = (asked, answer) => answer.json([]);

export const tides = Router();
tides.get('/', list);
`, ""},
		"what is exported by default": {`-- a.js --
export default function a() {}

export const b = 1;
-- package.json --
{}
`, "a.js#a", "c.js", "", "it exports by default"},
		"what is not exported": {`-- a.js --
const one = 1;

export const a = one;

export const b = one;
-- package.json --
{}
`, "a.js#a", "c.js", "", "uses one, which is not exported"},
		"what the compiler heeds": {`-- a.go --
//go:build linux

package a

var A = 1
-- go.mod --
module x.example/x
`, "a.go#A", "b.go", "", "tells the compiler of the file"},
		"what the rest uses and did not export": {`-- package.json --
{}
-- reducers.js --
import { combine } from 'redux'

const ships = (state, action) => state

// Of tides.
const tides = (state, action) => state

export default combine({ ships, tides })
`, "reducers.js#tides", "tides.js", `-- reducers.js --
import { combine } from 'redux'
import { tides } from './tides.js'

const ships = (state, action) => state

export default combine({ ships, tides })
-- tides.js --
// Of tides.
export const tides = (state, action) => state
`, ""},
	}.tried(t)
}
