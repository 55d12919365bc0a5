// The browser's part of the order of capabilities: each imports only what stands before it, and no two files
// import each other.
import { readdirSync, readFileSync } from "node:fs";
import { dirname, join, normalize, relative } from "node:path";
import { fileURLToPath } from "node:url";

const ORDER = [
  "api",
  "kit",
  "live",
  "records",
  "history",
  "founding",
  "people",
  "mail",
  "telling",
  "books",
  "rounds",
  "customers",
  "stores",
  "receipts",
  "quoting",
  "offers",
  "jobpages",
  "todos",
  "calls",
  "planning",
  "partswanted",
  "claims",
  "checklists",
  "field",
  "billing",
  "workorders",
  "figures",
  "sheet",
  "worklists",
  "checkdesk",
  "importing",
  "settings",
  "finding",
];
// What everybody may use, and the whole that uses everybody.
const SHARED = ["build.d.ts", "format.ts"];
const WHOLE = ["main.tsx", "Office.tsx"];

const SOURCE = join(dirname(fileURLToPath(import.meta.url)), "src");
const files = readdirSync(SOURCE, { recursive: true }).filter(
  (file) => /\.tsx?$/.test(file) && !file.includes("generated"),
);
const faults = [];

const capability = (file) => (file.includes("/") ? file.split("/")[0] : "");
const place = (file) => {
  if (WHOLE.includes(file)) {
    return ORDER.length;
  }
  if (SHARED.includes(file)) {
    return -1;
  }
  const at = ORDER.indexOf(capability(file));
  if (at < 0) {
    faults.push(`${file} has no place in the order; give its folder one in imports.mjs`);
  }
  return at;
};

const importsOf = new Map();
for (const file of files) {
  const found = readFileSync(join(SOURCE, file), "utf8").matchAll(/(?:from|import\() ?"(\.[^"]+)"/g);
  const imported = [...found]
    .map(([, path]) => relative(SOURCE, normalize(join(SOURCE, dirname(file), path))))
    .map((path) => files.find((known) => known.replace(/\.tsx?$/, "") === path))
    .filter((known) => known !== undefined);
  importsOf.set(file, imported);
  for (const other of imported) {
    if (place(other) > place(file)) {
      faults.push(`${file} imports ${other}, which stands after it`);
    }
  }
}

const done = new Set();
const walk = (file, path) => {
  if (path.includes(file)) {
    faults.push(`a circle: ${[...path.slice(path.indexOf(file)), file].join(" > ")}`);
    return;
  }
  if (!done.has(file)) {
    for (const other of importsOf.get(file)) {
      walk(other, [...path, file]);
    }
    done.add(file);
  }
};
for (const file of files) {
  walk(file, []);
}

if (faults.length > 0) {
  console.error([...new Set(faults)].join("\n"));
  process.exit(1);
}
