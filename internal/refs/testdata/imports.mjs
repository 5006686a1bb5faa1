// Prints what the files named on standard input import, as the grammars of their
// languages parse them: a line of JSON for each file without an error.
import { readFileSync } from "node:fs";
import { Language, Parser } from "web-tree-sitter";

const imported = (node) => {
  const name = node.text.split("\n")[0].replace(/\/\/.*|[;`]/g, "").replace(/^(@\w+(\(\w+\))?\s+|public\s+)*import\s+(static\s+)?((struct|class|enum|protocol|func|var|let|typealias)\s+)?/, "");
  return [name.replace(/\s+as\s+\w+/, "").trim()];
};

// One name of each that a use of PHP lists, the group's beginning before those of a group.
const used = (node) => {
  const text = node.text.replace(/\/\*[^]*?\*\/|\/\/.*|#.*/g, "").replace(/^use\s+(function\s+|const\s+)?/, "").replace(/;\s*$/, "");
  const [, before, group] = text.match(/^([^{]*)\{([^}]*)\}/) ?? [null, "", text];
  return group.split(",").map((one) => (before.trim() + one.trim().replace(/^(function|const)\s+/, "").replace(/\s+as\s+\w+$/i, "")).replace(/^\\/, "")).filter(Boolean);
};

// What is read of each language: a grammar, and by the kind of a node what it says.
const languages = {
  java: ["java", { import_declaration: imported }],
  kt: ["kotlin", { import_header: imported }],
  swift: ["swift", { import_declaration: imported }],
  cs: ["c_sharp", { using_directive: (node) => (node.text.includes("<") ? [] : [node.text.replace(/^(global\s+)?using\s+(static\s+)?(\w+\s*=\s*)?(global::)?/, "").replace(/\s*;$/, "")]) }],
  dart: ["dart", { uri: (node) => [node.text.replace(/^['"]|['"]$/g, "")] }],
  php: ["php", { namespace_use_declaration: used, use_declaration: (node) => (node.text.includes("{") ? [] : used(node)) }],
  rs: ["rust", { mod_item: (node) => (node.childForFieldName("body") ? [] : [node.childForFieldName("name").text]) }],
};

await Parser.init();
const parsers = {};
for (const path of readFileSync(0, "utf8").split("\n")) {
  const [grammar, says] = languages[path.split(".").pop()] ?? [];
  if (!grammar) continue;
  if (!parsers[grammar]) {
    parsers[grammar] = new Parser();
    parsers[grammar].setLanguage(await Language.load(`node_modules/tree-sitter-wasms/out/tree-sitter-${grammar}.wasm`));
  }
  const tree = parsers[grammar].parse(readFileSync(path, "utf8"));
  if (tree.rootNode.hasError) continue;
  const all = [];
  const visit = (node) => {
    for (const name of says[node.type]?.(node) ?? []) all.push(`${node.startPosition.row + 1} ${name}`);
    node.namedChildren.forEach(visit);
  };
  visit(tree.rootNode);
  console.log(JSON.stringify({ path, says: all }));
}
