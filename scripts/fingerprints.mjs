// Writes down which build this is: its release, and a fingerprint of each stage that a result goes through, over the sources that
// the stage is made of. What is kept of a result is known by them: another build makes it anew where its stage is another.
import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { transform } from 'esbuild';
import { importGraph } from './import-graph.mjs';
import { root } from './prepare.mjs';

/** Where the rows of a report are made: all that is imported from here makes up the stages. */
const entries = ['server/work/tasks/carry.ts', 'server/work/tasks/whole.ts'];

/** The stage of a source, by its path; what is none of these belongs to the steps. */
const stages = {
  reading: /^(?:core\/(?:reading|page)|server\/pdf)\/|^server\/work\/(?:page-cache|report-content)\.ts$/,
  values: /^core\/values\//,
  formulas: /^core\/formula\//,
  checks: /^core\/(?:checks|ties|drift)\//,
  steps: /./,
};
const stageOf = (path) => Object.keys(stages).find((stage) => stages[stage].test(path));

/** What a source says, without comments and how it is laid out. */
async function essence(path) {
  const text = readFileSync(join(root, path), 'utf8');
  if (!path.endsWith('.ts')) return text;
  return (
    await transform(text, {
      loader: 'ts',
      minifyWhitespace: true,
      minifySyntax: true,
      legalComments: 'none',
      target: 'node20',
    })
  ).code;
}

/** The versions of the packages that a source is made with, as the lock file has them. */
function packagesOf({ imports }) {
  const outside = imports
    .filter(({ external, path }) => external && !path.startsWith('node:'))
    .map(({ path }) => /^(?:@[^/]+\/)?[^/]+/.exec(path)[0]);
  return [...new Set(outside)].sort().map((name) => `${name}@${locked[`node_modules/${name}`]?.version ?? ''}`);
}

const { version } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
const locked = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8')).packages;

const hashes = Object.fromEntries(Object.keys(stages).map((stage) => [stage, createHash('sha256')]));
for (const [path, source] of Object.entries(await importGraph(entries)).sort(([a], [b]) => (a < b ? -1 : 1)))
  hashes[stageOf(path)].update(JSON.stringify([path, await essence(path), packagesOf(source)]));
const fingerprints = Object.fromEntries(
  Object.entries(hashes).map(([stage, hash]) => [stage, hash.digest('hex').slice(0, 12)]),
);
writeFileSync(process.argv[2], `${JSON.stringify({ release: version, stages: fingerprints }, undefined, 2)}\n`);
