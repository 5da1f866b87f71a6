// Random steps and pipelines over reports of every demo family.
import fc from 'fast-check';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import * as v from 'valibot';
import { append } from '../../core/pipeline/append';
import { CarryCache, carryReport, type CarriedReport } from '../../core/pipeline/carry';
import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { findTables } from '../../core/reading/find-tables';
import type { ReportRead } from '../../core/intake/take';
import { cellText, isBlank, type Cell } from '../../core/values/cell';
import { nowhere, type Origins } from '../../core/sheet/origin';
import type { Column } from '../../core/sheet/column';
import { chosen, type ColumnChoice } from '../../core/steps/column-choice';
import { parted, rowsAt, type Sheet } from '../../core/sheet/sheet';
import { sampleList } from '../../core/testing/sheets';
import { commutes, kinds, type Step } from '../../core/steps/kinds';
import type { Paper, StepResult } from '../../core/steps/step';
import { random } from '../../demo/random';
import { streamPages } from '../pdf/read-pages';
import {
  demoFolder,
  demoPipeline,
  notesFolder,
  notesPipeline,
  registerFolder,
  registerPipeline,
  rollFolder,
  rollPipeline,
  throughputFolder,
  throughputPipeline,
  tideFolder,
  tidePipeline,
} from '../testing/folders';
import { randomSettings } from '../testing/random-settings';

/** Enough of a long report to go over a page's end. */
const mostPages = 3;
const families = [
  { name: 'landing sheets', pipeline: demoPipeline, folder: demoFolder, reports: ['week-24.pdf', 'week-28.pdf'] },
  { name: 'vessel register', pipeline: registerPipeline, folder: registerFolder, reports: ['register-2025.pdf'] },
  { name: 'berth notes', pipeline: notesPipeline, folder: notesFolder, reports: ['note-1041.pdf', 'note-1042.pdf'] },
  { name: 'licence roll', pipeline: rollPipeline, folder: rollFolder, reports: ['roll-2023.pdf', 'roll-2024.pdf'] },
  {
    name: 'tide tables',
    pipeline: tidePipeline,
    folder: tideFolder,
    reports: ['tides-2025-05.pdf', 'tides-2025-06.pdf'],
  },
  {
    name: 'throughput',
    pipeline: throughputPipeline,
    folder: throughputFolder,
    reports: ['north/throughput-2021.pdf', 'west/throughput-2021.pdf'],
  },
];

interface Family {
  readonly document: Pipeline;
  readonly inputs: readonly ReportRead[];
  readonly carried: readonly CarriedReport[];
}
const read = new Map<string, Family>();

beforeAll(async () => {
  for (const { name, pipeline, folder, reports } of families) {
    const document = parsePipeline(JSON.parse(await readFile(pipeline, 'utf8')));
    const inputs: ReportRead[] = [];
    for (const path of reports) {
      const pages = [];
      for await (const each of streamPages(await readFile(join(folder, path)), path, {
        wanted: (page) => page <= mostPages,
      }))
        if ('page' in each) pages.push(each.page);
      inputs.push({ key: path, path, pages, tables: findTables(pages) });
    }
    read.set(name, { document, inputs, carried: inputs.map((input) => carryReport(document, input)) });
  }
});

const around = (paper: Paper) => ({
  papers: () => paper,
  letPass: () => false,
  lists: (version: string) => (version === sampleList.name ? sampleList : undefined),
});
const settingsOf = (kind: string, sheet: Sheet, draw: ReturnType<typeof random>) =>
  v.parse(kinds.get(kind)!.settings, randomSettings(kind, sheet, draw)) as Record<string, unknown>;
const seeds = fc.integer({ min: 0, max: 2 ** 31 });
const squeezed = (text: string) => text.replace(/\s+/g, '');

/** A word by its page and its place there, as one number: millions of them are compared. */
const wordOn = (page: number, place: number) => page * 2 ** 20 + place;
const pageOf = (word: number) => Math.floor(word / 2 ** 20);
const placeOf = (word: number) => word % 2 ** 20;
const known = new WeakMap<Origins, Map<number, readonly number[]>>();
/** The words behind a cell. What an id stands for never changes, so it is looked up once. */
function wordsAt(origins: Origins, id: number): readonly number[] {
  const own = known.get(origins) ?? new Map<number, readonly number[]>();
  known.set(origins, own);
  const words = own.get(id) ?? origins.places(id).flatMap(({ page, words }) => words.map((word) => wordOn(page, word)));
  own.set(id, words);
  return words;
}
const sameCell = (a: Cell, b: Cell) => a === b || (typeof a === 'object' && JSON.stringify(a) === JSON.stringify(b));

/** The words behind the cells of some columns, or behind those that hold a text. */
function wordsIn(
  origins: Origins,
  columns: readonly Column[],
  which: 'all' | 'filled' = 'all',
  seen = new Set<number>(),
  words = new Set<number>(),
): Set<number> {
  for (const { origins: ids, cells } of columns)
    for (const [row, id] of ids.entries())
      if (id !== nowhere && !seen.has(id) && (which === 'all' || !isBlank(cells[row]))) {
        seen.add(id);
        for (const word of wordsAt(origins, id)) words.add(word);
      }
  return words;
}

/** Works out once what is asked of the same sheet again and again. */
function ofSheet<T>(work: (sheet: Sheet) => T): (sheet: Sheet) => T {
  const had = new WeakMap<Sheet, T>();
  return (sheet) => had.get(sheet) ?? (had.set(sheet, work(sheet)), had.get(sheet)!);
}
const cellsOf = ofSheet(
  (sheet) => new Set(sheet.columns.flatMap(({ cells }) => cells.map((cell) => ` ${JSON.stringify(cell)}`))),
);
const cellsWithOrigins = ofSheet(
  (sheet) =>
    new Set(
      sheet.columns.flatMap(({ cells, origins }) =>
        cells.map((cell, row) => `${origins[row]} ${JSON.stringify(cell)}`),
      ),
    ),
);

/** Every cell is one that stood above with the same words behind it, or is listed as overwritten, or stands in a column that the step made. */
function expectNoCellChangedInSilence(
  kind: string,
  above: Sheet,
  settings: Record<string, unknown>,
  { sheet, overwritten = [], leftOut = [], added = 0 }: StepResult,
) {
  // Types say another thing of the same words; a step that moves values or sorts keeps the pair of text and words.
  if (kind === 'set types') return;
  // Where rows become one, a value that they share comes from the words of all.
  const joins = kind === 'summarise' || kind === 'pivot';
  const before = joins ? cellsOf(above) : cellsWithOrigins(above);
  // Columns that became rows are gone; a new one may be called as one of them was.
  const kept =
    kind === 'unpivot'
      ? (settings['columns'] as ColumnChoice)
      : kind === 'stack blocks'
        ? (settings['sides'] as ColumnChoice)
        : undefined;
  const chosenNames = kept && chosen(above, kept).columns.map(({ name }) => name);
  const names = new Set(
    above.columns
      .map(({ name }) => name)
      .filter((each) => !chosenNames || chosenNames.includes(each) === (kind === 'stack blocks')),
  );
  for (const column of sheet.columns) {
    if (!names.has(column.name) || leftOut.some((each) => each.name === column.name)) continue;
    const listed = new Set(overwritten.filter((each) => each.column === column.name).flatMap(({ rows }) => [...rows]));
    column.cells.forEach((cell, row) => {
      // The names that a header was made of stand in an added row.
      if (kind === 'demote header' && row < added) return;
      if (
        !isBlank(cell) &&
        !listed.has(row) &&
        !before.has(`${joins ? '' : column.origins[row]} ${JSON.stringify(cell)}`)
      )
        throw new Error(`${kind}: ${column.name}, row ${row + 1} holds ${cellText(cell)}, which stood nowhere above.`);
    });
  }
}

/** Every word behind a text above is behind a cell that passed, that was held, or that was left out. */
function expectNoWordLost(kind: string, origins: Origins, above: Sheet, { sheet, held, leftOut = [] }: StepResult) {
  const seen = new Set<number>();
  const words = new Set<number>();
  for (const columns of [sheet.columns, held?.rows.columns ?? [], leftOut])
    wordsIn(origins, columns, 'all', seen, words);
  const lost = [...wordsIn(origins, above.columns, 'filled')].filter((word) => !words.has(word));
  if (lost.length > 0)
    throw new Error(
      `${kind} lost ${lost.length} words, the first on page ${pageOf(lost[0])}, word ${placeOf(lost[0])}.`,
    );
}

describe.each(families.map(({ name }) => name))('%s', (name) => {
  it('have every word of their taken tables in a cell, with the text of the words traced', () => {
    for (const { layers, matches } of read.get(name)!.carried) {
      const [{ sheet }] = layers;
      const { inputs } = read.get(name)!;
      const pages = inputs.find((input) => input.key === sheet.rows.report(0))!.pages;
      const wordText = (word: number) => pages.find(({ number }) => number === pageOf(word))!.words[placeOf(word)].text;
      const { origins } = sheet.rows.book;
      for (const column of sheet.columns)
        column.cells.forEach((cell, row) => {
          if (!isBlank(cell))
            expect(squeezed(wordsAt(origins, column.origins[row]).map(wordText).join(''))).toBe(
              squeezed(cellText(cell)),
            );
        });
      const inCells = wordsIn(origins, sheet.columns);
      for (const match of matches)
        for (const { page: number, box } of match.pieces)
          pages
            .find((page) => page.number === number)!
            .words.forEach(({ text, box: [x0, y0, x1, y1] }, word) => {
              const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
              if (x > box[0] && x < box[2] && y > box[1] && y < box[3] && /[\p{L}\p{N}]/u.test(text))
                expect(inCells.has(wordOn(number, word)), `“${text}” on page ${number}`).toBe(true);
            });
    }
  });

  describe.each([...kinds.keys()])('%s', (kind) => {
    it('loses no row, no word and no text on sheets of this family, and gives the same before and after the append if it says so', () => {
      const { carried } = read.get(name)!;
      fc.assert(
        fc.property(seeds, (seed) => {
          const draw = random(seed);
          const { layers, paper } = draw.one(carried);
          const sheet = draw.one(layers).sheet;
          const settings = settingsOf(kind, sheet, draw);
          const result = kinds.get(kind)!.run(sheet, settings, around(paper));
          expect(result.sheet.rows.length + (result.held?.rows.rows.length ?? 0)).toBe(
            sheet.rows.length + (result.added ?? 0),
          );
          expectNoWordLost(kind, sheet.rows.book.origins, sheet, result);
          expectNoCellChangedInSilence(kind, sheet, settings, result);
          if (!commutes({ id: 'a', kind, settings })) return;
          const half = draw.whole(0, sheet.rows.length);
          const { passed, others } = parted(sheet, (row) => row < half);
          // What began may go on in the rest of its report, never in another one: there the halves are a report and no rows.
          const halves =
            kind === 'lines to records' || kind === 'split table' ? [sheet, rowsAt(sheet, [])] : [passed, others];
          const parts = append(halves.map((part) => kinds.get(kind)!.run(part, settings, around(paper)).sheet)).sheet;
          expect(parts.rows.length).toBe(result.sheet.rows.length);
          for (const column of result.sheet.columns) {
            const own = parts.columns.find((each) => each.name === column.name);
            column.cells.forEach((cell, row) => {
              if (!sameCell(cell, own?.cells[row] ?? null))
                throw new Error(
                  `${column.name}, row ${row + 1}: ${cellText(cell)} at once, ${cellText(own?.cells[row] ?? null)} in parts.`,
                );
            });
          }
        }),
        { numRuns: 30 },
      );
    });
  });

  it('give the same from a cached prefix as anew, under random changes of random pipelines', () => {
    const { document, inputs, carried } = read.get(name)!;
    const input = inputs[0];
    fc.assert(
      fc.property(seeds, (seed) => {
        const draw = random(seed);
        const cache = new CarryCache();
        let steps: Step[] = [];
        for (let change = 0; change < 4; change++) {
          const kind = draw.one([...kinds.keys()]);
          const step = { id: `s${change}`, kind, settings: settingsOf(kind, draw.one(carried[0].layers).sheet, draw) };
          const at = draw.whole(0, steps.length);
          steps = draw.chance(0.2)
            ? steps.filter((_, i) => i !== at)
            : [...steps.slice(0, at), step, ...steps.slice(at)];
          const pipeline: Pipeline = {
            ...document,
            eachReport: [...document.eachReport.slice(0, 2), ...steps],
            allReports: [],
          };
          const cached = carryReport(pipeline, input, { cache });
          const anew = carryReport(pipeline, input);
          const plain = ({ layers, problems }: CarriedReport) => ({
            layers: layers.map(({ id, rowsIn, sheet, held }) => [
              id,
              rowsIn,
              held.reasons,
              sheet.columns.map(({ name: own, type, cells, origins }) => [
                own,
                type,
                cells,
                [...origins.slice(0, 20)].map((origin) => wordsAt(sheet.rows.book.origins, origin)),
              ]),
            ]),
            problems,
          });
          expect(plain(cached)).toEqual(plain(anew));
        }
      }),
      { numRuns: 12 },
    );
  });
});
