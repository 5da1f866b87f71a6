import type { LandingSheet } from './landings';
import { headings, longDate, printedRows, type PrintedRow } from './sheet-rows';
import { quays, total } from './landings';

/** What a writer of PDF files must be able to do; coordinates in points from the top left, y is the baseline. */
export interface Pen {
  newPage(): void;
  text(text: string, x: number, y: number, size: number, style?: 'bold' | 'italic'): void;
  width(text: string, size: number, style?: 'bold' | 'italic'): number;
  rule(x0: number, y0: number, x1: number, y1: number, thickness: number): void;
  fill(x: number, y: number, width: number, height: number, colour: string): void;
}

/** How the two offices that send the sheets set them. */
export interface House {
  readonly width: number;
  readonly height: number;
  readonly margin: number;
  readonly size: number;
  readonly pitch: number;
  readonly ruleEveryRow: boolean;
  readonly shadedHeading: boolean;
}

export const northOffice: House = {
  width: 595.28,
  height: 841.89,
  margin: 48,
  size: 8.5,
  pitch: 15.4,
  ruleEveryRow: false,
  shadedHeading: false,
};
export const southOffice: House = {
  width: 612,
  height: 792,
  margin: 54,
  size: 8,
  pitch: 12.6,
  ruleEveryRow: true,
  shadedHeading: true,
};

/** Right edges of the columns as parts of the measure; the first two are set to the left. */
const stops = (columns: number) =>
  columns === 8 ? [0, 0.085, 0.41, 0.53, 0.65, 0.75, 0.88, 1] : [0, 0.085, 0.44, 0.58, 0.72, 0.83, 1];

const intro = [
  'The weekly landing sheet lists what was sold over the scales at the quays of the Board. Weights are net of',
  'ice. Corrections to earlier weeks stand in brackets. Prices are averages of the lots of a line, weighted by',
  'kilogram. Sheets are final unless a revision is issued. The harbour office answers questions on weekdays',
  'between nine and noon; the tally room keeps the tickets for six months.',
];

/** Draws one landing sheet: a page of text with a chart, then the landings over the pages they need, then the calls. */
export function drawSheet(pen: Pen, house: House, sheet: LandingSheet): void {
  const { margin, size } = house;
  const measure = house.width - 2 * margin;
  const rows = printedRows(sheet);
  const [top, sub] = headings(sheet);
  const edges = stops(top.length).map((part) => margin + part * measure);
  let page = 0;
  let y = 0;

  const startPage = () => {
    pen.newPage();
    page++;
    pen.text('Northreach Harbour Board', margin, margin - 14, 8, 'bold');
    rightText(`Week ending ${longDate(sheet.ending)}`, house.width - margin, margin - 14, 8);
    rightText(`Page ${page}`, house.width - margin, house.height - margin + 22, 8);
    pen.text(
      sheet.revision > 0 ? `Landing sheet, revision ${sheet.revision}` : 'Landing sheet',
      margin,
      house.height - margin + 22,
      8,
    );
    y = margin + 24;
  };
  const rightText = (text: string, x: number, at: number, fontSize: number, style?: 'bold' | 'italic') =>
    pen.text(text, x - pen.width(text, fontSize, style), at, fontSize, style);
  const cell = (text: string, column: number, at: number, style?: 'bold' | 'italic') => {
    const marked = text.endsWith('^1');
    const plain = marked ? text.slice(0, -2) : text;
    if (plain === '') return;
    if (column < 2) pen.text(plain, edges[column], at, size, style);
    else {
      // A footnote mark hangs out to the right, so that the digits stay in line.
      rightText(plain, edges[column], at, size, style);
      if (marked) pen.text('1', edges[column] + 0.4, at - size * 0.36, size * 0.62);
    }
  };
  const across = (at: number, thickness: number) => pen.rule(margin, at, house.width - margin, at, thickness);

  const heading = () => {
    if (house.shadedHeading) pen.fill(margin, y - size - 2, measure, 2 * house.pitch + 2, '#e4e8ea');
    across(y - size - 2, 0.9);
    top.forEach((text, column) => {
      if (text !== 'Weight (kg)') return cell(text, column, y, 'bold');
      const middle = (edges[column] - 0.085 * measure + edges[column + 1]) / 2;
      pen.text(text, middle - pen.width(text, size, 'bold') / 2, y, size, 'bold');
      pen.rule(edges[column] - 0.075 * measure, y + 3, edges[column + 1], y + 3, 0.4);
    });
    y += house.pitch;
    sub.forEach((text, column) => cell(text, column, y, 'bold'));
    across(y + 4, 0.9);
    y += house.pitch + 2;
  };

  startPage();
  pen.text('Landings of the week', margin, y, 15, 'bold');
  y += 26;
  for (const line of intro) {
    pen.text(line, margin, y, 10);
    y += 14;
  }
  chart(pen, house, sheet, y + 30);

  startPage();
  pen.text('Landings by species', margin, y, 10.5, 'bold');
  y += 22;
  heading();
  for (const row of rows) {
    if (y > house.height - margin - 26) {
      across(y - size - 1, 0.9);
      startPage();
      heading();
    }
    drawRow(row);
  }
  across(y - size, 0.9);
  y += 4;
  pen.text('1', margin, y - 2.6, size * 0.62);
  pen.text('price agreed before the sale', margin + 4, y, size - 0.5);
  y += 34;

  function drawRow(row: PrintedRow) {
    const style = row.kind === 'section' ? 'bold' : row.kind === 'line' ? undefined : 'italic';
    if (row.kind === 'total' || row.kind === 'grand total') across(y - size - 0.5, 0.5);
    else if (house.ruleEveryRow) across(y - size - 0.5, 0.25);
    row.cells.forEach((text, column) => cell(text, column, y, style));
    y += house.pitch + (row.kind === 'total' && !house.ruleEveryRow ? 3 : 0);
  }

  if (y > house.height - margin - 40 - sheet.calls.length * house.pitch) startPage();
  calls();

  function calls() {
    const stopsOf = [margin, margin + 0.3 * measure, margin + 0.52 * measure, margin + 0.62 * measure];
    pen.text('Vessel calls', margin, y, 10.5, 'bold');
    y += 20;
    pen.rule(margin, y - size - 2, stopsOf[3], y - size - 2, 0.9);
    ['Vessel', 'Berth', 'Arrived', 'Hours'].forEach((text, i) =>
      i < 2 ? pen.text(text, stopsOf[i], y, size, 'bold') : rightText(text, stopsOf[i], y, size, 'bold'),
    );
    pen.rule(margin, y + 4, stopsOf[3], y + 4, 0.5);
    y += house.pitch + 3;
    for (const call of sheet.calls) {
      pen.text(call.vessel, stopsOf[0], y, size);
      pen.text(call.berth, stopsOf[1], y, size);
      rightText(call.arrived, stopsOf[2], y, size);
      rightText(String(call.hours), stopsOf[3], y, size);
      y += house.pitch;
    }
    pen.rule(margin, y - size, stopsOf[3], y - size, 0.9);
  }
}

/** Value landed by quay as bars with an axis: something that looks a little like a table and is none. */
function chart(pen: Pen, house: House, sheet: LandingSheet, top: number) {
  const { margin } = house;
  const high = 150;
  const sums = sheet.quays.map(({ landings }) => total(landings, (l) => l.value));
  const most = Math.max(...sums);
  pen.text('Value landed by quay', margin, top, 10, 'bold');
  const base = top + 24 + high;
  for (let i = 0; i <= 4; i++) {
    const at = base - (high * i) / 4;
    pen.rule(margin + 46, at, margin + 330, at, 0.3);
    const label = `${Math.round((most * i) / 400_000)}k`;
    pen.text(label, margin + 40 - pen.width(label, 7.5), at + 2.5, 7.5);
  }
  quays.forEach((quay, i) => {
    const x = margin + 62 + i * 68;
    const tall = (high * sums[i]) / most;
    pen.fill(x, base - tall, 40, tall, '#5f7f94');
    pen.text(quay, x + 20 - pen.width(quay, 7.5) / 2, base + 11, 7.5);
  });
}
