import { readFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { findTables } from '../../core/reading/find-tables';
import { wholePage } from '../../core/reading/page-tables';
import { plainRows, readingNames, type Piece, type ReadingName } from '../../core/reading/found-table';
import { sentence } from '../../core/sheet/problem';
import { readPages } from '../pdf/read-pages';

/** Which pages a range such as `2-8` or `1,3,5-7` means. @throws Error with a sentence when it is none */
export function pageRange(text: string): (page: number) => boolean {
  const parts = text.split(',').map((part) => /^\s*(\d+)\s*(?:-\s*(\d+)\s*)?$/.exec(part));
  if (parts.some((part) => !part)) throw new Error(`“${text}” is not a range of pages. Write it like 2-8 or 1,3,5-7.`);
  const ranges = parts.map((part) => [Number(part![1]), Number(part![2] ?? part![1])]);
  const backwards = ranges.find(([from, to]) => from > to || from === 0);
  if (backwards)
    throw new Error(
      `“${text}” holds no page: the first page of a range comes before the last, and pages are counted from 1.`,
    );
  return (page) => ranges.some(([from, to]) => page >= from && page <= to);
}

/** @throws Error with a sentence when there is no reading of that name */
function readingName(text: string): ReadingName {
  // A drawn reading needs separators, which a pipeline holds.
  const names = readingNames.filter((name) => name !== 'drawn');
  const name = names.find((known) => known === text);
  if (!name) throw new Error(`There is no reading “${text}”. It is one of: ${names.join(', ')}.`);
  return name;
}

/** The piece with the wanted reading in front; pieces that cannot be read so stay as they are. */
const withReading = (piece: Piece, name: ReadingName | undefined): Piece =>
  name === undefined
    ? piece
    : { ...piece, readings: [...piece.readings].sort((a, b) => Number(b.name === name) - Number(a.name === name)) };

const pieceJson = (piece: Piece, label: string | undefined) => ({
  id: piece.id,
  page: piece.page,
  label: label ?? null,
  continues: piece.continues,
  title: piece.title ?? null,
  reading: piece.readings[0].name,
  box: piece.box,
  rows: plainRows(piece.readings[0]),
  alternatives: piece.readings.slice(1).map((reading) => ({ reading: reading.name, rows: plainRows(reading) })),
});

export async function tables(
  file: string,
  options: { pages?: string; password?: string; wholePages?: boolean; reading?: string; json?: boolean },
): Promise<void> {
  const name = basename(file);
  const wanted = options.pages === undefined ? undefined : pageRange(options.pages);
  const forced = options.reading === undefined ? undefined : readingName(options.reading);
  const bytes = await readFile(file).catch((error: NodeJS.ErrnoException) => {
    throw new Error(
      error.code === 'ENOENT' ? `There is no file ${file}.` : `${file} cannot be opened (${error.code}).`,
    );
  });
  const { pageCount, pages, problems } = await readPages(bytes, name, { password: options.password, wanted });
  const pieces = findTables(pages).flatMap((table) => table.pieces.map((piece) => withReading(piece, forced)));
  const whole = options.wholePages
    ? pages.flatMap((page) => wholePage(page) ?? []).map((piece) => withReading(piece, forced))
    : [];
  const labels = new Map(pages.map((page) => [page.number, page.label]));
  for (const piece of [...pieces, ...whole])
    if (forced && piece.readings[0].name !== forced)
      process.stderr.write(
        `${piece.id} on page ${piece.page} cannot be read “${forced}”; it is shown as read “${piece.readings[0].name}”.\n`,
      );
  if (options.json) {
    process.stdout.write(
      `${JSON.stringify({ pages: pageCount, tables: [...pieces, ...whole].map((piece) => pieceJson(piece, labels.get(piece.page))), problems: problems.map((p) => sentence({ ...p, report: name })) })}\n`,
    );
    return;
  }
  for (const piece of [...pieces, ...whole]) {
    const [best] = piece.readings;
    process.stdout.write(
      `\n${piece.id}, page ${piece.page}${labels.get(piece.page) ? ` (printed ${labels.get(piece.page)})` : ''}${piece.continues ? `, goes on from ${piece.continues}` : ''}: ${piece.title ?? 'no title'} (${best.name}: ${best.reason})\n`,
    );
    for (const row of plainRows(best)) process.stdout.write(`  ${row.join(' | ')}\n`);
  }
  for (const problem of problems) process.stderr.write(`${sentence({ ...problem, report: name })}\n`);
  process.stdout.write(
    `\n${pieces.length} found ${pieces.length === 1 ? 'piece' : 'pieces'} on ${pageCount} ${pageCount === 1 ? 'page' : 'pages'}.\n`,
  );
}
