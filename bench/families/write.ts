// Writes the reports of the families anew: node_modules/.bin/tsx bench/families/write.ts
import { mkdirSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { printHtml } from '../../demo/html-print';
import { families } from './all';

const folder = dirname(fileURLToPath(import.meta.url));
for (const { reports } of families)
  for (const { path, html } of reports) {
    const file = join(folder, 'papers', path);
    mkdirSync(dirname(file), { recursive: true });
    writeFileSync(file, printHtml(html, '20250630', { tagged: false }));
  }
