// The demo families again, their pipelines without a step: what is proposed, and a few changes by hand, give the expected dataset.
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { carryReport } from '../../core/pipeline/carry';
import { parsePipeline, type Pipeline } from '../../core/pipeline/document';
import { findTables } from '../../core/reading/find-tables';
import type { ReportRead } from '../../core/intake/take';
import { cellText } from '../../core/values/cell';
import type { Sheet } from '../../core/sheet/sheet';
import { kinds } from '../../core/steps/kinds';
import type { TypeRule } from '../../core/steps/set-types';
import { likeliestTable } from '../../core/suggest/likeliest-table';
import { proposeSteps } from '../../core/suggest/propose';
import { families as unseen } from '../../bench/families/all';
import { root } from '../testing/folders';
import { tableFacts } from './facts';
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
  tideDatasets,
  tideFolder,
} from '../testing/folders';
import * as v from 'valibot';

/** A step put in by hand below the others of its zone. */
interface PutIn {
  readonly zone: 'eachTable' | 'eachReport' | 'allReports';
  readonly kind: string;
  readonly settings: Record<string, unknown>;
}
/** A column that is read otherwise, in the step that sets types; undefined: as text. */
interface Typed {
  readonly column: string;
  readonly as: Record<string, unknown> | undefined;
}
type ByHand = PutIn | Typed;

function changedBy(document: Pipeline, change: ByHand, nth: number): Pipeline {
  if ('zone' in change)
    return {
      ...document,
      [change.zone]: [
        ...document[change.zone],
        {
          id: `hand${nth}`,
          kind: change.kind,
          settings: v.parse(kinds.get(change.kind)!.settings, change.settings) as Record<string, unknown>,
        },
      ],
    };
  const { column, as } = change;
  return {
    ...document,
    allReports: document.allReports.map((step) => {
      if (step.kind !== 'set types') return step;
      const types = (step.settings['types'] as TypeRule[]).filter(
        ({ columns }) => columns.by !== 'names' || columns.names[0] !== column,
      );
      const settings = {
        ...step.settings,
        types: as === undefined ? types : [...types, { columns: { by: 'names', names: [column] }, ...as }],
      };
      return { ...step, settings: v.parse(kinds.get('set types')!.settings, settings) };
    }),
  };
}
const rename = (names: Record<string, string>): ByHand => ({
  zone: 'allReports',
  kind: 'rename',
  settings: { names: Object.entries(names).map(([from, to]) => ({ from: [from], to })) },
});

const splitInto = (column: string, at: Record<string, unknown>, into: readonly string[]): ByHand => ({
  zone: 'eachReport',
  kind: 'split column',
  settings: { column, where: 'at a mark', ...at, into },
});

const perTwoHours = 'Thousand m³ in two hours';
const thousands = {
  type: 'decimal',
  marks: 'as each report prints them',
  unit: 't',
  scale: 'thousands',
  scaleIs: 'applied',
};
const [tides, waters] = tideDatasets;
const families: readonly {
  name: string;
  pipeline: string;
  folder: string;
  reports: number;
  pages?: number;
  byHand: readonly ByHand[];
}[] = [
  {
    name: 'landing sheets',
    pipeline: demoPipeline,
    folder: demoFolder,
    reports: 16,
    byHand: [rename({ Section: 'Quay' })],
  },
  { name: 'vessel register', pipeline: registerPipeline, folder: registerFolder, reports: 1, pages: 8, byHand: [] },
  {
    name: 'berth notes',
    pipeline: notesPipeline,
    folder: notesFolder,
    reports: 14,
    byHand: [
      { column: 'From', as: undefined },
      { column: 'To', as: undefined },
    ],
  },
  {
    name: 'tide tables',
    pipeline: tides.pipeline,
    folder: tideFolder,
    reports: 3,
    byHand: [
      rename({ Part: 'Half', Time: 'From', [perTwoHours]: 'Flow' }),
      { column: perTwoHours, as: { type: 'decimal', unit: 'm³', scale: 'thousands', scaleIs: 'applied' } },
    ],
  },
  {
    name: 'high and low waters',
    pipeline: waters.pipeline,
    folder: tideFolder,
    reports: 3,
    byHand: [
      rename({ Part: 'Water' }),
      {
        zone: 'eachReport',
        kind: 'sift rows',
        settings: {
          when: 'all',
          conditions: ['Time', 'Height (m)'].map((name) => ({ of: { is: 'column', name }, test: 'is', value: '–' })),
        },
      },
    ],
  },
  {
    name: 'licence roll',
    pipeline: rollPipeline,
    folder: rollFolder,
    reports: 3,
    byHand: [
      splitInto('Line 1', { mark: ' ' }, ['Licence', 'Holder']),
      splitInto('Line 2', { mark: ', ', counted: 'from the right' }, ['Address', 'Port']),
      rename({ Year: 'Roll', 'Other lines': 'Vessels' }),
    ],
  },
  {
    name: 'throughput',
    pipeline: throughputPipeline,
    folder: throughputFolder,
    reports: 8,
    byHand: [
      {
        zone: 'allReports',
        kind: 'pick columns',
        settings: { columns: { by: 'names', names: ['Group', 'Year', 'Cargo', 'Month', 'Plan', 'Actual'] } },
      },
      { column: 'Plan', as: thousands },
      { column: 'Actual', as: thousands },
    ],
  },
];

async function reads(folder: string, most: number, mostPages = Infinity): Promise<ReportRead[]> {
  const paths = (await readdir(folder, { recursive: true }))
    .filter((path) => path.endsWith('.pdf'))
    .sort()
    .slice(0, most);
  const found: ReportRead[] = [];
  for (const path of paths) {
    try {
      found.push(await readOne(folder, path, mostPages));
    } catch {
      // The damaged one of the demo.
    }
  }
  return found;
}

async function readOne(folder: string, path: string, mostPages = Infinity): Promise<ReportRead> {
  const pages = [];
  for await (const each of streamPages(await readFile(join(folder, path)), path, {
    wanted: (page) => page <= mostPages,
  }))
    if ('page' in each) pages.push(each.page);
  return { key: path, path, pages, tables: findTables(pages) };
}

/** The cells of some columns, row by row, as a file has them. */
const cellsOf = ({ columns, rows }: Sheet, names: readonly string[]) =>
  rows.map((row) =>
    names.map((name) => cellText(columns.find((column) => column.name === name)?.cells[row] ?? null)).join(' | '),
  );

describe('all proposals taken, with at most four changes by hand', () => {
  it.each(families)('give the expected rows of $name', async ({ pipeline, folder, reports, pages, byHand }) => {
    const known = parsePipeline(JSON.parse(await readFile(pipeline, 'utf8')));
    // What is worked out of the print is for the analyst to say.
    const printed: Pipeline = {
      ...known,
      allReports: known.allReports.filter(({ kind }) => kind !== 'compute column'),
    };
    const without: Pipeline = { ...known, eachTable: [], eachReport: [], allReports: [] };
    const all = await reads(folder, reports, pages);
    const proposals = proposeSteps(without, all);
    expect(proposals.length).toBeGreaterThan(1);
    expect(byHand.length).toBeLessThanOrEqual(4);
    const taken = proposals.reduce<Pipeline>(
      (document, { zone, step }) => ({ ...document, [zone]: [...document[zone], step] }),
      without,
    );
    expect(proposeSteps(taken, all).map(({ title, says }) => `${title}: ${says}`)).toEqual([]);
    const changed = byHand.reduce<Pipeline>(changedBy, taken);
    for (const read of all) {
      const [expected, came] = [carryReport(printed, read).sheet, carryReport(changed, read).sheet];
      const names = expected.columns.map(({ name }) => name);
      expect(
        came.columns.map(({ name }) => name),
        read.path,
      ).toEqual(expect.arrayContaining(names));
      expect(cellsOf(came, names), read.path).toEqual(cellsOf(expected, names));
    }
  });
});

describe('of reports that the proposals were not made on', () => {
  it.each([...unseen])(
    '$name: all proposals taken are the expected rows',
    async ({ reports, heading, columns, rows }) => {
      const all = await Promise.all(reports.map(({ path }) => readOne(join(root, 'bench/families/papers'), path)));
      const found = likeliestTable(all.map(({ tables }) => tables.map(tableFacts)));
      expect(found).toMatchObject({ reports: reports.length });
      const without = parsePipeline({
        format: 'able-sieve/pipeline',
        version: 1,
        name: 'Unseen',
        take: [{ name: 'T', heading, ...(found!.several ? { which: 'all alike', least: 0.8 } : {}) }],
      });
      const proposals = proposeSteps(without, all);
      expect(proposals.flatMap(({ effect }) => effect.failing)).toEqual([]);
      const taken = proposals.reduce<Pipeline>(
        (document, { zone, step }) => ({ ...document, [zone]: [...document[zone], step] }),
        without,
      );
      expect(all.map((read) => cellsOf(carryReport(taken, read).sheet, columns))).toEqual(
        rows.map((own) => own.map((cells) => cells.join(' | '))),
      );
      expect(proposeSteps(taken, all)).toEqual([]);
      // No printed total is off.
      expect(
        all.flatMap((read) =>
          carryReport(taken, read).layers.flatMap(({ held }) => held.covers?.flatMap(({ differs }) => differs) ?? []),
        ),
      ).toEqual([]);
    },
  );
});
