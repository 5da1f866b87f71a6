// Sets the papers of tables.ts by writers that Debian has, and writes what their tables are beside them. Run by hand
// when papers or writers change: tsx bench/pages/write.ts [NAMES] [SEED] [FOLDER]
import { copyFileSync, mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { placed, type Paper, type Table } from './paper';
import { papers } from './tables';
import { chromium, fop, groff, latex, linePrinter, pageCount, readText, weasyprint, type Writer } from './writers';

const writers: Record<string, { writer: Writer; leaves?: RegExp }> = {
  latex: { writer: latex },
  // Spans down and shading are not what troff tables are good at.
  groff: { writer: groff, leaves: /zebra|^groups|article|captions/ },
  weasyprint: { writer: weasyprint },
  chromium: { writer: chromium, leaves: /^(?:report|ledger|register)$/ },
  fop: { writer: fop },
  'line-printer': {
    writer: linePrinter,
    leaves: /article|manual|zebra|boxed|groups|words|captions|tight|ledger|register-once/,
  },
};

/** Writers without a sign print another. */
const asPrinted = (writer: string, text: string) =>
  writer === 'line-printer'
    ? text.replace(/[−–]/g, '-').replace(/³/g, '3')
    : writer === 'fop'
      ? text.replace(/−/g, '-')
      : text;

const squeezed = (text: string) => text.normalize('NFKC').replace(/[−–]/g, '-').replace(/\s+/g, '');

/** Pages on which the rows of a table stand, by the page whose text holds most of the row's words, never going back. */
function pagesOfRows(table: Table, texts: readonly string[]): number[] {
  const words = table.rows.map((row) =>
    row
      .flatMap((cell) => cell.text.split(' '))
      .map(squeezed)
      .filter((word) => word.length > 1),
  );
  const held = (row: number, page: number) => words[row].filter((word) => texts[page].includes(word)).length;
  if (table.rows.length <= 60) {
    const counts = texts.map((_, page) => words.reduce((sum, _row, row) => sum + held(row, page), 0));
    return words.map(() => counts.indexOf(Math.max(...counts)) + 1);
  }
  let page = 0;
  return words.map((own, row) => {
    while (page + 1 < texts.length && held(row, page) < own.length && held(row, page + 1) >= own.length) page++;
    return page + 1;
  });
}

function truthOf(paper: Paper, writer: string, folder: string, base: string) {
  const pages = pageCount(folder, base);
  const texts = Array.from({ length: pages }, (_, i) => squeezed(readText(folder, base, i + 1)));
  const tables: object[] = [];
  for (const block of paper.blocks) {
    if (block.kind !== 'table') continue;
    const cells = placed(block).map((cell) => ({ ...cell, text: asPrinted(writer, cell.text) }));
    const pageOf = pagesOfRows(block, texts);
    let before: string | null = null;
    for (const page of [...new Set(pageOf)]) {
      const own = pageOf.flatMap((p, row) => (p === page ? [row] : []));
      const repeated =
        before !== null && block.repeats && writer !== 'line-printer'
          ? Array.from({ length: block.headingRows }, (_, i) => i)
          : [];
      const rows = [...repeated, ...own];
      const id = `t${tables.length + 1}`;
      tables.push({
        id,
        page,
        continues: before,
        title: before === null ? (block.titleBelow ? null : (block.title ?? null)) : null,
        headerRows: before === null || repeated.length > 0 ? block.headingRows : 0,
        cells: rows.flatMap((row, at) =>
          cells.filter((cell) => cell.row === row).map((cell) => ({ ...cell, row: at })),
        ),
      });
      before = id;
    }
  }
  return {
    producer: writer,
    layout: paper.name,
    tags: [],
    password: null,
    error: false,
    scanned: false,
    pages,
    tables,
  };
}

const [only, seed, into] = process.argv.slice(2);
const here = into ?? fileURLToPath(new URL('.', import.meta.url));
const wanted = only ? new RegExp(only) : /./;
const folder = mkdtempSync(join(tmpdir(), 'pages-'));
mkdirSync(here, { recursive: true });
for (const paper of papers(seed ? Number(seed) : undefined))
  for (const [name, { writer, leaves }] of Object.entries(writers)) {
    const base = `${paper.name}-${name}`;
    if (leaves?.test(paper.name) || !wanted.test(base)) continue;
    writer.write(paper, folder, base);
    copyFileSync(join(folder, `${base}.pdf`), join(here, `${base}.pdf`));
    writeFileSync(join(here, `${base}.truth.json`), `${JSON.stringify(truthOf(paper, name, folder, base))}\n`);
    console.log(base);
  }
