import { readdirSync, readFileSync } from 'node:fs';
import { dirname, join, relative, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';

const root = fileURLToPath(new URL('..', import.meta.url));
const sources = ['core', 'server', 'web', 'demo', 'bench']
  .flatMap((folder) => readdirSync(join(root, folder), { recursive: true, withFileTypes: true }))
  .filter((entry) => entry.isFile() && entry.name.endsWith('.ts'))
  .map((entry) => relative(root, join(entry.parentPath, entry.name)));

/** What each layer may import; a folder always may import itself. */
const allowed: Record<string, readonly string[]> = {
  'core/page': [],
  'core/reading': ['core/page', 'core/sheet', 'core/values'],
  'core/sheet': ['core/values'],
  'core/values': [],
  'core/formula': ['core/sheet', 'core/values'],
  'core/steps': ['core/sheet', 'core/values', 'core/formula', 'core/page/box'],
  'core/intake': ['core/page', 'core/reading', 'core/sheet', 'core/values'],
  'core/drift': ['core/page', 'core/intake', 'core/values', 'core/sheet'],
  'core/pipeline': [
    'core/checks',
    'core/dataset',
    'core/drift',
    'core/page',
    'core/reading',
    'core/sheet',
    'core/values',
    'core/steps',
    'core/intake',
  ],
  'core/checks': ['core/values', 'core/sheet', 'core/formula'],
  'core/evidence': ['core/values'],
  'core/dataset': ['core/values', 'core/sheet'],
  'core/ties': ['core/values', 'core/reading', 'core/sheet', 'core/steps', 'core/pipeline'],
  'core/suggest': [
    'core/formula',
    'core/values',
    'core/page',
    'core/reading',
    'core/sheet',
    'core/steps',
    'core/intake',
    'core/pipeline',
  ],
  'core/runs': ['core/drift', 'core/intake', 'core/sheet', 'core/pipeline', 'core/ties'],
  server: ['core', 'bin/engine.json'],
  web: ['core', 'server/contract'],
  demo: [],
  bench: ['core', 'server', 'demo', 'e2e/browser'],
};

/** Of statements that begin a line, and of imports called in passing: the word may stand in a text as well. */
const importsOf = (file: string) =>
  [
    ...readFileSync(join(root, file), 'utf8').matchAll(
      /(?:^(?:import|export)\b[^'";]*?\bfrom|\bimport)\s*\(?\s*['"]([^'"]+)['"]/gm,
    ),
  ].map((match) => match[1]);
const layerOf = (file: string) => Object.keys(allowed).find((layer) => file === layer || file.startsWith(`${layer}/`));
const isTest = (file: string) => /\.(?:test|spec|fixture)\.ts$|\/testing\//.test(file);

describe('layers', () => {
  it('import one way only', () => {
    const wrong: string[] = [];
    for (const file of sources.filter((each) => !isTest(each))) {
      const layer = layerOf(file);
      for (const target of importsOf(file).filter((path) => path.startsWith('.'))) {
        const reached = relative(root, resolve(root, dirname(file), target));
        if (!layer) wrong.push(`${file} belongs to no layer`);
        else if (
          !reached.startsWith(`${layer}/`) &&
          !allowed[layer].some((other) => reached === other || reached.startsWith(`${other}/`))
        )
          wrong.push(`${file} imports ${reached}`);
      }
    }
    expect(wrong).toEqual([]);
  });

  it('have no circles: no folder of the core or the server is imported by what it imports itself', () => {
    // A folder with those in it: core/reading, server/work.
    const folderOf = (file: string) => dirname(file).split('/').slice(0, 2).join('/');
    const reaches = new Map<string, Set<string>>();
    for (const file of sources.filter((each) => /^(?:core|server)\//.test(each) && !isTest(each)))
      for (const target of importsOf(file).filter((path) => path.startsWith('.'))) {
        const [from, to] = [folderOf(file), folderOf(relative(root, resolve(root, dirname(file), target)))];
        if (from !== to) reaches.set(from, (reaches.get(from) ?? new Set()).add(to));
      }
    const circles: string[] = [];
    const walk = (folder: string, way: readonly string[]) => {
      for (const next of reaches.get(folder) ?? []) {
        if (next === way[0]) circles.push([...way, next].join(' -> '));
        else if (!way.includes(next)) walk(next, [...way, next]);
      }
    };
    for (const folder of reaches.keys()) walk(folder, [folder]);
    expect(circles).toEqual([]);
  });

  it('keep the core pure: no Node, no browser, no clock, no chance', () => {
    for (const file of sources.filter((each) => each.startsWith('core/') && !isTest(each))) {
      const text = readFileSync(join(root, file), 'utf8');
      expect(
        importsOf(file).filter((path) => !path.startsWith('.')),
        file,
      ).toEqual(importsOf(file).filter((path) => ['valibot', 're2js', 'decimal.js'].includes(path)));
      expect(text, file).not.toMatch(/\b(?:process\.|window\.|Date\.now|new Date|Math\.random|fetch\()/);
    }
  });

  it('know the PDF parser in server/pdf alone', () => {
    expect(
      sources.filter(
        (file) =>
          !file.startsWith('server/pdf/') &&
          !/^(?:web|bench)\//.test(file) &&
          importsOf(file).some((path) => path.startsWith('pdfjs-dist')),
      ),
    ).toEqual([]);
  });
});
