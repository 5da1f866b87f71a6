import { stringify } from 'csv-stringify/sync';
import type { Pen } from './layout';
import { printed } from './sheet-rows';
import type { Vessel } from './vessels';

const [pageWidth, pageHeight, margin] = [595.28, 841.89, 42];
const [size, pitch, perPage] = [7.6, 14.4, 48];

interface Column {
  readonly heading: string;
  readonly at: number;
  readonly right?: boolean;
  readonly text: (vessel: Vessel) => string;
  /** As the dataset has it, where that differs from what is printed. */
  readonly value?: (vessel: Vessel) => string;
}

const decimal = (units: number | null) => (units === null ? '' : String(units / 100));

const columns: readonly Column[] = [
  { heading: 'Reg. no.', at: margin, text: (v) => v.number },
  { heading: 'Vessel', at: 84, text: (v) => v.name },
  { heading: 'Home port', at: 172, text: (v) => v.port },
  { heading: 'Type', at: 236, text: (v) => v.type },
  { heading: 'Length m', at: 326, right: true, text: (v) => printed(v.length, 2), value: (v) => decimal(v.length) },
  { heading: 'Gross t', at: 366, right: true, text: (v) => printed(v.gross, 0), value: (v) => String(v.gross) },
  { heading: 'Built', at: 392, right: true, text: (v) => (v.built === null ? '' : String(v.built)) },
  { heading: 'Owner', at: 402, text: (v) => v.owner },
  {
    heading: 'Dues',
    at: pageWidth - margin,
    right: true,
    text: (v) => (v.dues === null ? '' : printed(v.dues, 2)),
    value: (v) => decimal(v.dues),
  },
];

/** Draws the register: a line a vessel, the heading on every page, the number of vessels and their tonnage at the end. */
export function drawRegister(pen: Pen, vessels: readonly Vessel[]): void {
  const pages = Math.ceil(vessels.length / perPage);
  const cell = (column: Column, text: string, y: number, style?: 'bold') =>
    pen.text(text, column.right ? column.at - pen.width(text, size, style) : column.at, y, size, style);
  for (let page = 0; page < pages; page++) {
    pen.newPage();
    pen.text('Northreach Harbour Board: Register of vessels 2025', margin, 30, 8, 'bold');
    const foot = `Page ${page + 1} of ${pages}`;
    pen.text(foot, pageWidth - margin - pen.width(foot, 8), pageHeight - 24, 8);
    let y = 62;
    for (const column of columns) cell(column, column.heading, y, 'bold');
    pen.rule(margin, y + 5, pageWidth - margin, y + 5, 0.6);
    for (const vessel of vessels.slice(page * perPage, (page + 1) * perPage)) {
      y += pitch;
      for (const column of columns) cell(column, column.text(vessel), y);
    }
    if (page < pages - 1) continue;
    y += pitch;
    pen.rule(margin, y - pitch + 5, pageWidth - margin, y - pitch + 5, 0.6);
    cell(columns[1], `Total ${printed(vessels.length, 0)} vessels`, y, 'bold');
    cell(
      columns[5],
      printed(
        vessels.reduce((sum, vessel) => sum + vessel.gross, 0),
        0,
      ),
      y,
      'bold',
    );
  }
}

/** The dataset that the register must become, written from the same data that it was printed from. */
export const expectedRegister = (vessels: readonly Vessel[]): string =>
  stringify(
    [
      columns.map((column) => column.heading),
      ...vessels.map((vessel) => columns.map(({ text, value }) => (value ?? text)(vessel))),
    ],
    { record_delimiter: 'unix' },
  );
