// Scores `able-sieve tables` against the files of truth/, then sets our reading against the parser's own work.
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { findTables } from '../core/reading/find-tables';
import { openPdf } from '../server/pdf/document';
import { pdfjs } from '../server/pdf/parser';
import { pageContent } from '../server/pdf/page-content';

const root = fileURLToPath(new URL('..', import.meta.url));
const truth = join(root, 'bench/truth');

spawnSync(process.execPath, [join(truth, 'score.mjs'), '--run', `${process.execPath} ${join(root, 'bin/able-sieve.mjs')} tables {file} --json`, '--password-flag', '--password {password}', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
});

/** Time for all readable files: what the parser needs for text and graphics, and what we need from open file to tables. */
async function times() {
  let parser = 0;
  let ours = 0;
  let pages = 0;
  for (const name of readdirSync(truth).filter((file) => file.endsWith('.pdf') && !/^(?:broken|encrypted-pdfkit)/.test(file))) {
    const bytes = readFileSync(join(truth, name));
    const plain = await openPdf(bytes, name).catch(() => undefined);
    if (!plain) continue;
    const began = performance.now();
    for (let n = 1; n <= plain.numPages; n++) {
      const page = await plain.getPage(n);
      await page.getTextContent();
      await page.getOperatorList({ annotationMode: pdfjs.AnnotationMode.DISABLE });
      page.cleanup();
    }
    parser += performance.now() - began;
    await plain.loadingTask.destroy();

    const document = await openPdf(bytes, name);
    const start = performance.now();
    const content = [];
    for (let n = 1; n <= document.numPages; n++) {
      const page = await document.getPage(n);
      content.push(await pageContent(page));
      page.cleanup();
    }
    findTables(content);
    ours += performance.now() - start;
    pages += document.numPages;
    await document.loadingTask.destroy();
  }
  return { parser, ours, pages };
}

await times(); // warms both ways up
const { parser, ours, pages } = await times();
console.log(
  `\n${pages} pages: the parser's text content and operator list ${Math.round(parser)} ms; page content, tables and readings of ours ${Math.round(ours)} ms, ${(ours / parser).toFixed(2)} of it (includes the operator list).`,
);
