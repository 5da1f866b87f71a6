import { stringify } from 'csv-stringify/sync';
import type { House, Pen } from './layout';
import { totalOf, type BerthNote } from './notes';
import { longDate, printed } from './sheet-rows';

export const notePaper: House = {
  width: 595.28,
  height: 841.89,
  margin: 46,
  size: 8.6,
  pitch: 12.4,
  ruleEveryRow: false,
  shadedHeading: false,
};
export const narrowPaper: House = { ...notePaper, width: 476, height: 680, margin: 34, size: 7, pitch: 10.2 };

const title = 'Berth note';
const headings = ['Berth', 'From', 'To', 'Description', 'Units', 'Rate', 'Amount'];
/** Where the columns begin, or end if they are set to the right, as parts of the measure. */
const stops = [0, 0.09, 0.255, 0.42, 0.785, 0.875, 1];
const isRight = (column: number) => column > 3;

/** Draws a note: two blocks of labels, the stays with their lines, surcharges in a table of their own, tide times at the foot. */
export function drawNote(pen: Pen, house: House, note: BerthNote): void {
  const { margin, size, pitch } = house;
  const measure = house.width - 2 * margin;
  const at = (part: number) => margin + part * measure;
  let y = 0;
  let page = 0;
  const right = (text: string, x: number, fontSize = size, style?: 'bold') =>
    pen.text(text, x - pen.width(text, fontSize, style), y, fontSize, style);
  const across = (from = 0, to = 1, thickness = 0.5) => pen.rule(at(from), y, at(to), y, thickness);
  const startPage = () => {
    pen.newPage();
    page++;
    y = margin;
    pen.text('Northreach Harbour Board', margin, y, size + 1.4, 'bold');
    right(`${title} ${note.number}, page ${page}`, house.width - margin);
    y += 2.4 * pitch;
  };
  const room = (lines: number) => {
    if (y + lines * pitch > house.height - margin) startPage();
  };
  const cell = (text: string, column: number, style?: 'bold') =>
    isRight(column) ? right(text, at(stops[column]), size, style) : pen.text(text, at(stops[column]), y, size, style);

  startPage();
  const blocks: [label: string, value: string][][] = [
    [
      ['Vessel:', note.vessel],
      ['Reg. no.:', note.registered],
      ['Agent:', note.agent],
    ],
    [
      ['Note number:', note.number],
      ['Note date:', longDate(note.date)],
      ['Payable within:', '30 days'],
    ],
  ];
  blocks[0].forEach(([label, value], i) => {
    pen.text(label, at(0), y, size, 'bold');
    pen.text(value, at(0.12), y, size);
    pen.text(blocks[1][i][0], at(0.58), y, size, 'bold');
    pen.text(blocks[1][i][1], at(0.76), y, size);
    y += pitch;
  });
  y += 1.6 * pitch;
  pen.text('Stays', at(0), y, size + 1.4, 'bold');
  y += 1.5 * pitch;
  headings.forEach((text, column) => cell(text, column, 'bold'));
  y += 0.4 * pitch;
  across();
  y += pitch;
  // Narrow paper leaves the description no room of its own: it runs up to the units.
  const widest = note.narrow ? Infinity : (stops[4] - 0.075 - stops[3]) * measure;
  for (const stay of note.stays) {
    stay.lines.forEach((line, i) => {
      const lines = wrapped(pen, line.description, size, widest);
      room(lines.length + 1);
      if (i === 0) [stay.berth, stay.from, stay.to].forEach((text, column) => cell(text, column));
      [printed(line.units, 1), printed(line.rate, 2), printed(line.amount, 2)].forEach((text, n) => cell(text, n + 4));
      if (note.narrow) {
        // Set close, so that the last word ends at the units.
        const units = at(stops[4]) - pen.width(printed(line.units, 1), size);
        const wide = pen.width(line.description, size);
        pen.text(
          line.description,
          Math.max(at(stops[3]), Math.min(at(stops[3]), units - 1 - wide)),
          y,
          wide > units - 1 - at(stops[3]) ? (size * (units - 1 - at(stops[3]))) / wide : size,
        );
        y += pitch;
      } else
        for (const text of lines) {
          cell(text, 3);
          y += 0.82 * pitch;
        }
      y += note.narrow ? 0 : 0.5 * pitch;
    });
  }
  across(0.42);
  y += pitch;
  room(3);
  cell('Total of stays', 3, 'bold');
  cell(printed(totalOf(note.stays.flatMap((stay) => stay.lines)), 2), 6, 'bold');
  y += 2.4 * pitch;

  room(note.surcharges.length + 5);
  pen.text('Surcharges', at(0), y, size + 1.4, 'bold');
  y += 1.5 * pitch;
  const surchargeRow = ([code, name, amount]: readonly string[], style?: 'bold') => {
    pen.text(code, at(0), y, size, style);
    pen.text(name, at(0.1), y, size, style);
    right(amount, at(0.52), size, style);
    y += pitch;
  };
  surchargeRow(['Code', 'Surcharge', 'Amount'], 'bold');
  y -= 0.6 * pitch;
  across(0, 0.52);
  y += pitch;
  for (const { code, name, amount } of note.surcharges) surchargeRow([code, name, printed(amount, 2)]);
  surchargeRow(['', 'Total of surcharges', printed(totalOf(note.surcharges), 2)], 'bold');
  y += 1.4 * pitch;

  room(note.tides.length + 4);
  pen.text('Tide times at the bar', at(0), y, size + 1.4, 'bold');
  y += 1.5 * pitch;
  const tideStops = [0, 0.18, 0.32, 0.46, 0.6];
  ['Day', 'High', 'Low', 'High', 'Low'].forEach((text, i) => pen.text(text, at(tideStops[i]), y, size, 'bold'));
  for (const { day, times } of note.tides) {
    y += pitch;
    [day, ...times].forEach((text, i) => pen.text(text, at(tideStops[i]), y, size));
  }
}

/** A text in lines of at most so many points. */
function wrapped(pen: Pen, text: string, size: number, widest: number): string[] {
  const lines: string[] = [];
  for (const word of text.split(' ')) {
    const longer = lines.length > 0 ? `${lines.at(-1)} ${word}` : word;
    if (lines.length > 0 && pen.width(longer, size) <= widest) lines[lines.length - 1] = longer;
    else lines.push(word);
  }
  return lines;
}

const decimal = (units: number, places: number) => String(units / 10 ** places);

/** The dataset that the notes must become, written from the same data that they were printed from. */
export const expectedNotes = (notes: readonly BerthNote[]): string =>
  stringify(
    [
      ['Note number', 'Note date', 'Vessel', 'Agent', ...headings],
      ...notes.flatMap((note) =>
        note.stays.flatMap((stay) =>
          stay.lines.map((line) => [
            note.number,
            note.date,
            note.vessel,
            note.agent,
            stay.berth,
            stay.from,
            stay.to,
            line.description,
            decimal(line.units, 1),
            decimal(line.rate, 2),
            decimal(line.amount, 2),
          ]),
        ),
      ),
    ],
    { record_delimiter: 'unix' },
  );
