package realign

import (
	"testing"

	"dicaxon/internal/changes"
	"dicaxon/internal/refs"
)

// moreFollowings are those of the other languages, of pages and of settings.
var moreFollowings = []following{
	{"PHP: a class goes to another namespace", "app/Berth.php app/Models/Berth.php", `
-- composer.json --
{"autoload": {"psr-4": {"App\\": "app/"}}}
-- app/Berth.php --
<?php

namespace App;

class Berth { public Tide $tide; }
-- app/Tide.php --
<?php

namespace App;

class Tide { public Berth $berth; }
-- app/Http/Page.php --
<?php

namespace App\Http;

use App\Berth;

class Page { function show() { return new Berth(\App\Berth::class); } }
`, `
-- app/Models/Berth.php --
<?php

namespace App\Models;

use App\Tide;

class Berth { public Tide $tide; }
-- app/Tide.php --
<?php

namespace App;

use App\Models\Berth;

class Tide { public Berth $berth; }
-- app/Http/Page.php --
<?php

namespace App\Http;

use App\Models\Berth;

class Page { function show() { return new Berth(\App\Models\Berth::class); } }
`},
	{"C#: a class goes to another namespace", "Ferry/Models/Berth.cs Ferry/Berths/Berth.cs", `
-- Ferry/Ferry.csproj --
<Project Sdk="Microsoft.NET.Sdk"></Project>
-- Ferry/Models/Berth.cs --
namespace Ferry.Models;

public class Berth { }
-- Ferry/Models/Tide.cs --
namespace Ferry.Models;

public class Tide { Berth berth; }
-- Ferry/Pages/Card.cs --
using Ferry.Models;

namespace Ferry.Pages;

public class Card { Berth berth; Tide tide; }
`, `
-- Ferry/Berths/Berth.cs --
namespace Ferry.Berths;

public class Berth { }
-- Ferry/Models/Tide.cs --
using Ferry.Berths;

namespace Ferry.Models;

public class Tide { Berth berth; }
-- Ferry/Pages/Card.cs --
using Ferry.Berths;
using Ferry.Models;

namespace Ferry.Pages;

public class Card { Berth berth; Tide tide; }
`},
	{"Rust: what a sibling names by way of the module above", "src/berth.rs src/harbour/berth.rs", `
-- Cargo.toml --
[package]
name = "ferry"
-- src/lib.rs --
pub mod berth;
pub mod harbour;
pub mod tides;
-- src/harbour.rs --
pub mod crane;
-- src/berth.rs --
pub struct Card;
-- src/tides.rs --
use super::berth::Card;
`, `
-- src/lib.rs --
pub mod harbour;
pub mod tides;
-- src/harbour.rs --
pub mod crane;
pub mod berth;
-- src/harbour/berth.rs --
pub struct Card;
-- src/tides.rs --
use crate::harbour::berth::Card;
`},
	{"Rust: a module goes below another", "src/berth.rs src/harbour/berth.rs", `
-- Cargo.toml --
[package]
name = "ferry"
-- src/lib.rs --
pub mod berth;
pub mod harbour;
use crate::berth::Card;
-- src/harbour.rs --
pub mod crane;
-- src/harbour/crane.rs --
use crate::berth::Card;
-- src/berth.rs --
use super::harbour;
pub struct Card;
`, `
-- src/lib.rs --
pub mod harbour;
use crate::harbour::berth::Card;
-- src/harbour.rs --
pub mod crane;
pub mod berth;
-- src/harbour/crane.rs --
use crate::harbour::berth::Card;
-- src/harbour/berth.rs --
use crate::harbour;
pub struct Card;
`},
	{"Rust: a module that another crate uses goes below another", "tides/src/table.rs tides/src/moon/table.rs", `
-- tides/Cargo.toml --
[package]
name = "gannet-tides"
-- tides/src/lib.rs --
pub mod moon;
pub mod table;
-- tides/src/moon.rs --
-- tides/src/table.rs --
pub struct Table;
-- cli/Cargo.toml --
[package]
name = "cli"
-- cli/src/main.rs --
use gannet_tides::table::Table;
`, `
-- tides/src/lib.rs --
pub mod moon;
-- tides/src/moon.rs --
pub mod table;
-- tides/src/moon/table.rs --
pub struct Table;
-- cli/src/main.rs --
use gannet_tides::moon::table::Table;
`},
	{"Ruby: required from beside", "lib/ferry/berth.rb lib/ferry/harbour/berth.rb", `
-- lib/ferry.rb --
require_relative "ferry/berth"
require "ferry/tide"
-- lib/ferry/tide.rb --
require_relative "berth"
-- lib/ferry/berth.rb --
require_relative "tide"
`, `
-- lib/ferry.rb --
require_relative "ferry/harbour/berth"
require "ferry/tide"
-- lib/ferry/tide.rb --
require_relative "harbour/berth"
-- lib/ferry/harbour/berth.rb --
require_relative "../tide"
`},
	{"Dart: by the package and from beside", "lib/berth.dart lib/harbour/berth.dart", `
-- pubspec.yaml --
name: ferry
-- lib/main.dart --
import 'package:ferry/berth.dart';
import 'berth.dart';
-- lib/tide.dart --
class Tide {}
-- lib/berth.dart --
import 'tide.dart';
`, `
-- lib/main.dart --
import 'package:ferry/harbour/berth.dart';
import 'harbour/berth.dart';
-- lib/harbour/berth.dart --
import '../tide.dart';
`},
	{"pages, styles, documents, images, pipelines", "web/ site/web/", `
-- index.html --
<!doctype html><html><link rel="stylesheet" href="web/main.css"><script src="web/app.js?v=1"></script></html>
-- web/main.css --
body { background: url("../fog.png"); }
-- web/app.js --
-- fog.png --
-- README.md --
See [the style](web/main.css#top).
-- Dockerfile --
FROM scratch
COPY web/ /srv/
-- .github/workflows/ci.yml --
run: ls web/app.js
`, `
-- index.html --
<!doctype html><html><link rel="stylesheet" href="site/web/main.css"><script src="site/web/app.js?v=1"></script></html>
-- site/web/main.css --
body { background: url("../../fog.png"); }
-- README.md --
See [the style](site/web/main.css#top).
-- Dockerfile --
FROM scratch
COPY site/web/ /srv/
-- .github/workflows/ci.yml --
run: ls site/web/app.js
`},
	{"TypeScript: what is compiled of a source", "index.ts src/index.ts lib/card.ts lib/cards/card.ts", `
-- package.json --
{
  "main": "obj/index.js",
  "types": "./obj/index.d.ts",
  "exports": {"./card": "./obj/lib/card.js", "./other": "./other/index.js"},
  "bin": "run.js"
}
-- tsconfig.json --
{"compilerOptions": {"outDir": "obj", "rootDir": "."}}
-- run.js --
-- index.ts --
export const x = 1;
-- lib/card.ts --
export const y = 1;
-- other/index.ts --
export const z = 1;
`, `
-- package.json --
{
  "main": "obj/src/index.js",
  "types": "./obj/src/index.d.ts",
  "exports": {"./card": "./obj/lib/cards/card.js", "./other": "./other/index.js"},
  "bin": "run.js"
}
`},
	{"JavaScript: what a loader is told a list of", "js/views/list.js js/views/berths/list.js js/pages/list.html js/templates/berths.html js/models/berth.js js/berth.js", `
-- index.html --
<!doctype html>
<script data-main="js/main.js" src="js/libs/require.js"></script>
-- js/libs/require.js --
-- js/main.js --
require.config({ paths: { text: 'libs/text', shown: 'views' } });
require(['app'], function (app) { app.start(); });
-- js/app.js --
define(['models/berth', 'shown/list', './views/list', 'jquery'], function () {
  return require('views/list');
});
-- js/models/berth.js --
define([], function () { return {}; });
-- js/views/list.js --
define(['text!pages/list.html', 'models/berth'], function () {});
-- js/pages/list.html --
<p></p>
-- lib/umd.js --
if (typeof define === 'function' && define.amd) define(['models/berth'], f);
`, `
-- js/app.js --
define(['berth', 'shown/berths/list', './views/berths/list', 'jquery'], function () {
  return require('views/berths/list');
});
-- js/views/berths/list.js --
define(['text!templates/berths.html', 'berth'], function () {});
`},
	{"Python: what lies in a folder without a marker", "include/harbour/clean.py include/harbour/tidy/clean.py", `
-- dags/berths.py --
from include.harbour.clean import clean

clean()
-- include/harbour/clean.py --
def clean():
    pass
`, `
-- dags/berths.py --
from include.harbour.tidy.clean import clean

clean()
`},
	{"dbt: a model gets another name", "models/berths.sql models/marts/dim_berths.sql", `
-- dbt_project.yml --
name: ferry
model-paths: [models]
-- models/berths.sql --
select 1
-- models/calls.sql --
select * from {{ ref('berths') }}
`, `
-- models/calls.sql --
select * from {{ ref('dim_berths') }}
`},
}

// TestPatternsThatFitNothing: a script whose pattern fits no file any more is told.
func TestPatternsThatFitNothing(t *testing.T) {
	tree := Texts{"package.json": []byte("{\n  \"scripts\": {\"test\": \"mocha '*.test.js' lib/*.js **/*.mjs\"}\n}\n"), "a.test.ts": nil, "lib/a.js": nil, "lib/b.js": nil}
	_, remarks := Follow(refs.NewGraph(tree), tree, nil, &changes.Plan{Moves: movesOf("a.test.ts test/b.ts lib/a.js a.js")})
	if len(remarks) != 1 || remarks[0].Line != 2 || remarks[0].Says != "no file fits *.test.js any more" {
		t.Errorf("%v", remarks)
	}
}

// TestPatternsFollow: a pattern whose files all move names where they are then, and no others.
func TestPatternsFollow(t *testing.T) {
	manifest := "{\n  \"scripts\": {\"test\": \"mocha --ui tdd *.test.js\"}\n}\n"
	tree := Texts{"package.json": []byte(manifest), "a.test.ts": nil, "b.test.ts": nil, "c.ts": nil}
	for moves, want := range map[string]string{
		"a.test.ts test/logic/a.test.ts b.test.ts test/data/b.test.ts": "test/*/*.test.js",
		"a.test.ts test/a.test.ts b.test.ts test/b.test.ts":            "test/*.test.js",
		"a.test.ts test/a.test.ts b.test.ts test/deep/b.test.ts":       "",
		"a.test.ts test/a.test.ts":                                     "*.test.js",
	} {
		edits, _ := Follow(refs.NewGraph(tree), tree, nil, &changes.Plan{Moves: movesOf(moves)})
		got := "*.test.js"
		if len(edits) > 0 {
			got = edits[0].Text
		} else if want == "" {
			got = ""
		}
		if got != want {
			t.Errorf("%s: got %q, want %q", moves, got, want)
		}
	}
}
