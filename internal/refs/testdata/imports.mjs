// Prints what the files named on standard input import, as the grammars of their
// languages parse them: a line of JSON for each file without an error.
import { readFileSync } from "node:fs";
import { Language, Parser } from "web-tree-sitter";

const grammars = { java: "java", kt: "kotlin", swift: "swift" };
const nodes = new Set(["import_declaration", "import_header"]);

await Parser.init();
const parsers = {};
for (const path of readFileSync(0, "utf8").split("\n")) {
  const grammar = grammars[path.split(".").pop()];
  if (!grammar) continue;
  if (!parsers[grammar]) {
    parsers[grammar] = new Parser();
    parsers[grammar].setLanguage(await Language.load(`node_modules/tree-sitter-wasms/out/tree-sitter-${grammar}.wasm`));
  }
  const tree = parsers[grammar].parse(readFileSync(path, "utf8"));
  if (tree.rootNode.hasError) continue;
  const says = [];
  const visit = (node) => {
    if (nodes.has(node.type)) {
      const name = node.text.split("\n")[0].replace(/\/\/.*|[;`]/g, "").replace(/^(@\w+(\(\w+\))?\s+|public\s+)*import\s+(static\s+)?((struct|class|enum|protocol|func|var|let|typealias)\s+)?/, "");
      says.push(`${node.startPosition.row + 1} ${name.replace(/\s+as\s+\w+/, "").trim()}`);
    }
    node.namedChildren.forEach(visit);
  };
  visit(tree.rootNode);
  console.log(JSON.stringify({ path, says }));
}
