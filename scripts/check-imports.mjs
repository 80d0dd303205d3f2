// Checks that imports run one way: down the list of the core's folders, from faces to core, never between web and server;
// and that no core file reaches for what only a browser or Node has.
import { existsSync, readdirSync, readFileSync } from "node:fs";
import { join, relative, resolve } from "node:path";
import { HOUSE } from "./prepare.mjs";

/** The core's folders, from the record on: a folder may import itself and those above it. */
const ORDER = [
  "units",
  "record",
  "catalogue",
  "routes",
  "schematic",
  "equip",
  "sense",
  "settings",
  "events",
  "line",
  "circuit",
  "loom",
  "readings",
  "hands",
  "diodes",
  "numbers",
  "live",
  "indicators",
  "findings",
  "proving",
  "debts",
  "allot",
  "calculators",
  // all of the above for one record; below it stands what compares two records
  "derive.ts",
  "stock",
  "consequences",
  "schools",
  "tasks",
  "pathfinder",
  "papers",
];
/** Folders that know of nothing but themselves and these. */
const APART = { circuit: [], units: [] };
const CORE_PACKAGES = ["zod/mini", "zod/locales"];

const problems = ORDER.filter((name) => !existsSync(join(HOUSE, "core/src", name))).map(
  (name) => `scripts/check-imports.mjs: core/src/${name} is in the order, but not there`,
);
const core = join(HOUSE, "core/src");

for (const file of sources(core)) {
  const [folder] = relative(core, file).split("/");
  const place = relative(HOUSE, file);
  for (const wanted of imports(file)) {
    if (!wanted.startsWith(".")) {
      if (!CORE_PACKAGES.includes(wanted)) problems.push(`${place}: the core may not import ${wanted}`);
      continue;
    }
    const target = relative(core, resolve(file, "..", wanted));
    if (target.startsWith("..")) {
      problems.push(`${place}: the core may not import ${wanted}, which lies outside it`);
      continue;
    }
    const [other] = target.split("/");
    if (folder.endsWith(".ts") || other === folder) continue;
    if (!ORDER.includes(folder)) {
      problems.push(`${place}: the folder ${folder} has no place in the order of scripts/check-imports.mjs`);
      continue;
    }
    const allowed = APART[folder] ?? ORDER.slice(0, ORDER.indexOf(folder));
    if (!allowed.includes(other)) problems.push(`${place}: ${folder} may not import ${other}`);
  }
  for (const [, name] of readFileSync(file, "utf8").matchAll(
    /\b(?<![.\w"'`])(window|document|localStorage|process|Buffer|setTimeout|fetch|require)\b(?=[.([])/g,
  )) {
    problems.push(`${place}: the core may not use ${name}`);
  }
}
for (const [face, others] of [
  ["server", ["web"]],
  ["web", ["server"]],
]) {
  for (const file of sources(join(HOUSE, face, "src"))) {
    for (const wanted of imports(file)) {
      const target = wanted.startsWith(".") ? relative(HOUSE, resolve(file, "..", wanted)) : wanted;
      const bad = others.some((other) => target.startsWith(`${other}/`) || target.startsWith(`@alderman/${other}`));
      const pastTheDoor = target.startsWith("core/") || target.startsWith("@alderman/core/");
      if (bad || pastTheDoor) problems.push(`${relative(HOUSE, file)}: ${face} may not import ${wanted}`);
    }
  }
}

/** Source files below a folder, without tests. */
function sources(folder) {
  return readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && /\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name));
}

/** What a file imports or hands on, by the text between the quotes. */
function imports(file) {
  const text = readFileSync(file, "utf8");
  const statements = text.matchAll(
    /^\s*(?:import|export)\b[^"';]*?\bfrom\s+"([^"]+)"|^\s*import\s+"([^"]+)"|\bimport\(\s*"([^"]+)"/gm,
  );
  return [...statements].map(([, from, bare, dynamic]) => from ?? bare ?? dynamic);
}

for (const problem of problems) process.stderr.write(`${problem}\n`);
process.stderr.write(
  problems.length === 0 ? "Imports run one way.\n" : `${problems.length} imports run the wrong way.\n`,
);
process.exit(problems.length === 0 ? 0 : 1);
