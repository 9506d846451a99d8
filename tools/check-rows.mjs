// Holds what `rows<Row>(…)` is told in the server to what the database answered there while the tests ran: each column
// that is named must be there, and each cell of a kind (and, of a choice, a value) that its type knows.
// node tools/check-rows.mjs FOLDER, as written by server/testing/watch-rows.ts.
import { readdirSync, readFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

/** By place, what was seen in all files of tests: the kinds and texts of each column. */
function seenIn(folder) {
  const seen = new Map();
  for (const file of readdirSync(folder)) {
    for (const [place, columns] of JSON.parse(readFileSync(join(folder, file), 'utf8'))) {
      const known = seen.get(place) ?? new Map();
      seen.set(place, known);
      for (const [name, kinds, texts] of columns) {
        const column = known.get(name) ?? { kinds: new Set(), texts: new Set() };
        known.set(name, column);
        for (const kind of kinds) column.kinds.add(kind);
        for (const text of texts) column.texts.add(text);
      }
    }
  }
  return seen;
}

/** The kinds of cell a type knows, and its texts where it is a choice of them. */
function kindsOf(type, checker) {
  const kinds = new Set();
  const texts = new Set();
  let anyText = false;
  for (const part of type.isUnion() ? type.types : [type]) {
    if (part.flags & ts.TypeFlags.StringLiteral) texts.add(part.value);
    else if (part.flags & (ts.TypeFlags.String | ts.TypeFlags.TemplateLiteral)) anyText = true;
    if (part.flags & ts.TypeFlags.StringLike) kinds.add('string');
    else if (part.flags & ts.TypeFlags.NumberLike) kinds.add('number');
    else if (part.flags & ts.TypeFlags.BooleanLike) kinds.add('boolean');
    else if (part.flags & ts.TypeFlags.Null) kinds.add('null');
    else if (checker.typeToString(part).startsWith('Buffer')) kinds.add('bytes');
    // A text with a name of its own (a day) is an intersection.
    else if (part.isIntersection() && part.types.some((each) => each.flags & ts.TypeFlags.String)) {
      kinds.add('string');
      anyText = true;
    }
  }
  return { kinds, texts: anyText ? null : texts };
}

function wrongOf(row, columns, checker, call) {
  const wrong = [];
  for (const property of checker.getPropertiesOfType(row)) {
    const column = columns.get(property.name);
    const told = checker.getTypeOfSymbolAtLocation(property, call);
    if (!column) {
      if (!(property.flags & ts.SymbolFlags.Optional)) wrong.push(`${property.name} is not answered`);
      continue;
    }
    const { kinds, texts } = kindsOf(told, checker);
    for (const kind of column.kinds) {
      if (!kinds.has(kind)) wrong.push(`${property.name} is ${kind}, told as ${checker.typeToString(told)}`);
    }
    for (const text of texts && column.kinds.has('string') ? column.texts : []) {
      if (!texts.has(text)) wrong.push(`${property.name} is '${text}', told as ${checker.typeToString(told)}`);
    }
  }
  return wrong;
}

const seen = seenIn(process.argv[2]);
const config = ts.getParsedCommandLineOfConfigFile(
  'tsconfig.json',
  {},
  { ...ts.sys, onUnRecoverableConfigFileDiagnostic: () => {} },
);
const files = config.fileNames.filter((file) => /\/server\//.test(file) && !/\.spec\.ts$/.test(file));
const program = ts.createProgram(files, config.options);
const checker = program.getTypeChecker();
const asked = { places: 0, seen: 0 };
const wrong = [];

for (const file of program.getSourceFiles()) {
  const path = relative(process.cwd(), file.fileName);
  if (!path.startsWith('server/') || path.startsWith('server/db/')) continue;
  const ofFile = [...seen]
    .filter(([place]) => place.startsWith(`${path}:`))
    .map(([place, columns]) => ({ line: Number(place.split(':')[1]), columns }));
  const look = (node) => {
    ts.forEachChild(node, look);
    if (
      !ts.isCallExpression(node) ||
      !ts.isPropertyAccessExpression(node.expression) ||
      node.expression.name.text !== 'rows' ||
      !node.typeArguments
    )
      return;
    const row = checker.getTypeFromTypeNode(node.typeArguments[0]);
    if (row.flags & ts.TypeFlags.TypeParameter) return;
    const line = file.getLineAndCharacterOfPosition(node.expression.name.getStart(file)).line + 1;
    const found = ofFile.filter((each) => each.line === line);
    asked.places += 1;
    if (found.length > 0) asked.seen += 1;
    for (const { columns } of found)
      wrong.push(...wrongOf(row, columns, checker, node).map((each) => `${path}:${line} ${each}`));
  };
  look(file);
}

console.log(
  `Rows are as they are told at ${asked.seen} of ${asked.places} places that ask for some; the others were not asked.`,
);
// Of all tests together: a check that sees nothing would find nothing.
if (process.argv.includes('--whole') && asked.seen < asked.places * 0.85) {
  console.error('Too few places were seen to be asked: rows are not watched as they should be.');
  process.exit(1);
}
if (wrong.length > 0) {
  console.error(wrong.join('\n'));
  process.exit(1);
}
