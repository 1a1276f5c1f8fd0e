// Fails when files of src import each other in a circle; imports of types alone do not count, they are gone at run time.
import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const root = fileURLToPath(new URL('..', import.meta.url));
const entryPoints = readdirSync(`${root}src`, { recursive: true, encoding: 'utf8' })
  .filter((one) => /\.tsx?$/.test(one) && !/\.test\.tsx?$/.test(one))
  .map((one) => `src/${one}`);

const { metafile } = await build({
  absWorkingDir: root,
  entryPoints,
  bundle: true,
  write: false,
  metafile: true,
  packages: 'external',
  platform: 'node',
  format: 'esm',
  outdir: '.build/circles',
  loader: { '.css': 'empty' },
  logLevel: 'warning',
});

/** File → what it imports. @type {Map<string, string[]>} */
const graph = new Map(
  Object.entries(metafile.inputs).map(([file, { imports }]) => [
    file,
    imports.filter((one) => !one.external).map((one) => one.path),
  ]),
);
/** @type {Set<string>} */
const done = new Set();
/** @type {string[]} */
const circles = [];

/** @param {string} file @param {string[]} way */
function follow(file, way) {
  const at = way.indexOf(file);
  if (at >= 0) {
    circles.push([...way.slice(at), file].join(' → '));
    return;
  }
  if (done.has(file)) return;
  for (const next of graph.get(file) ?? []) follow(next, [...way, file]);
  done.add(file);
}
for (const file of graph.keys()) follow(file, []);

if (graph.size < 100)
  throw new Error(`Only ${graph.size} files were looked at: the folder src was not found.`);
for (const circle of circles) console.error(`Files import each other in a circle: ${circle}`);
console.log(`${graph.size} files, ${circles.length} circles of imports.`);
process.exit(circles.length === 0 ? 0 : 1);
