// Parses the files named on the command line with the grammar of their
// language and says which have an error.
import { readFileSync } from "node:fs";
import { Language, Parser } from "web-tree-sitter";

const grammars = { cs: "c_sharp", dart: "dart", java: "java", kt: "kotlin", kts: "kotlin", swift: "swift" };

await Parser.init();
const loaded = {};
let parsed = 0;
for (const path of process.argv.slice(2)) {
  const grammar = grammars[path.split(".").pop()];
  if (!grammar) continue;
  loaded[grammar] ??= await Language.load(`node_modules/tree-sitter-wasms/out/tree-sitter-${grammar}.wasm`);
  const parser = new Parser();
  parser.setLanguage(loaded[grammar]);
  const tree = parser.parse(readFileSync(path, "utf8"));
  parsed++;
  if (tree.rootNode.hasError) {
    console.error(`${path}: ${tree.rootNode.toString()}`);
    process.exitCode = 1;
  }
}
if (parsed === 0) {
  console.error("nothing to parse");
  process.exitCode = 1;
}
