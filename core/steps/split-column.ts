import * as v from 'valibot';
import { cellText, isBlank, type Cell } from '../values/cell';
import { columnFrom, columnNamed, freeNames, missingColumn, type Column } from '../sheet/column';
import { rowsAt, sheet as makeSheet } from '../sheet/sheet';
import { isPattern, regularExpression, type Pattern } from './pattern';
import { remembered } from './remembered';
import { between, betweenInWords, field, step, when, widget } from './step';

const cutWays = ['at a mark', 'at every mark', 'at a pattern', 'at cuts', 'between quantity and unit'] as const;

export const splitColumn = step({
  kind: 'split column',
  title: 'Split column',
  group: 'columns',
  help: 'Cuts the texts of a column and puts the parts into columns or rows of their own, each traced to the same words.',
  settings: {
    column: field(widget(v.string(), { widget: 'column' }), 'Column'),
    where: field(v.optional(v.picklist(cutWays), 'at a mark'), 'Cut'),
    mark: field(when(between(v.optional(v.string(), ' ')), 'where', 'at a mark', 'at every mark'), 'Mark'),
    nth: field(
      when(v.optional(v.pipe(v.number(), v.integer(), v.minValue(1)), 1), 'where', 'at a mark'),
      'Which mark',
      'The first, the second ...',
    ),
    counted: field(
      when(v.optional(v.picklist(['from the left', 'from the right']), 'from the left'), 'where', 'at a mark'),
      'Counted',
    ),
    pattern: field(
      when(widget(v.optional(v.string(), ''), { widget: 'pattern', of: 'column' }), 'where', 'at a pattern'),
      'Pattern',
      'A regular expression: it is cut where it matches, and the match goes.',
    ),
    cuts: field(
      when(
        widget(v.optional(v.array(v.pipe(v.number(), v.integer())), []), { widget: 'cuts', of: 'column' }),
        'where',
        'at cuts',
      ),
      'Cuts',
      'After so many letters, drawn in a sample; below zero they are counted from the end.',
    ),
    to: field(v.optional(v.picklist(['columns', 'rows']), 'columns'), 'Parts become'),
    into: field(
      when(v.optional(v.array(v.string()), []), 'to', 'columns'),
      'Into',
      'Names of the parts; others get the name of the column with a number.',
    ),
    keep: field(when(v.optional(v.boolean(), false), 'to', 'columns'), 'Keep the column too'),
  },
  commutesWithAppend: ({ where, to }) => to === 'rows' || (where !== 'at every mark' && where !== 'at a pattern'),
  describe: ({ column, where, mark, nth, counted, pattern, cuts, to }) =>
    `${column || '(no column yet)'} ${where}${where === 'at a mark' ? `, ${betweenInWords(mark)}, number ${nth} ${counted}` : where === 'at every mark' ? `, ${betweenInWords(mark)}` : where === 'at a pattern' ? ` ${pattern}` : where === 'at cuts' ? ` after ${cuts.join(', ') || 'no'} letters` : ''}${to === 'rows' ? ', into rows' : ''}`,
  run(sheet, { column: name, where, mark, nth, counted, pattern, cuts, to, into, keep }) {
    const column = columnNamed(sheet, name);
    if (!column) return { sheet, problems: [missingColumn(sheet, name)] };
    const expression = where === 'at a pattern' && pattern !== '' ? regularExpression(pattern) : undefined;
    if (expression && !isPattern(expression)) return { sheet, problems: [expression] };
    const cut = cutter(where, { mark, nth, counted, cuts, expression });
    const trimmed = remembered((text) => cut(text).map((part) => part.trim()));
    const parts = column.cells.map((cell) => (isBlank(cell) ? [] : trimmed(cellText(cell))));
    if (to === 'rows') return intoRows(column, parts);
    const fewest =
      where === 'at a mark' || where === 'between quantity and unit' ? 2 : where === 'at cuts' ? cuts.length + 1 : 1;
    const count = parts.reduce((most, own) => Math.max(most, own.length), Math.max(into.length, fewest));
    const free = freeNames(sheet.columns.filter((each) => keep || each !== column));
    const made = Array.from({ length: count }, (_, i) =>
      columnFrom(
        column,
        free(into[i] ?? `${column.name} ${i + 1}`),
        parts.map((own): Cell => own[i] || null),
      ),
    );
    return {
      sheet: makeSheet(
        sheet.columns.flatMap((each) => (each === column ? [...(keep ? [each] : []), ...made] : [each])),
        sheet.rows,
      ),
      ...(keep ? {} : { leftOut: [column] }),
    };

    /** A row for each part that holds a text; the other cells of the row stand in each. */
    function intoRows(split: Column, texts: readonly string[][]) {
      const filled = texts.map((own) => own.filter((part) => part !== ''));
      const places = filled.flatMap((own, row) => Array.from({ length: Math.max(1, own.length) }, () => row));
      const cells = filled.flatMap((own, row): Cell[] => (own.length > 1 ? own : [split.cells[row]]));
      const repeated = rowsAt(sheet, places);
      const cutRows = places.flatMap((row, at) => (cells[at] === split.cells[row] ? [] : [at]));
      return {
        sheet: makeSheet(
          repeated.columns.map((each) => (each.name === split.name ? { ...each, cells } : each)),
          repeated.rows,
        ),
        added: places.length - sheet.rows.length,
        overwritten:
          cutRows.length > 0
            ? [
                {
                  column: split.name,
                  rows: cutRows,
                  old: cutRows.map((at) => split.cells[places[at]]),
                  why: 'split into rows',
                },
              ]
            : [],
      };
    }
  },
});

/** The parts of a text between cuts, each told by the letters before it, or below zero by those after it. */
export function cutAfter(text: string, cuts: readonly number[]): string[] {
  const letters = [...text];
  const ends = [...new Set(cuts.map((cut) => Math.max(0, cut < 0 ? letters.length + cut : cut)))].sort((a, b) => a - b);
  return [0, ...ends].map((start, i) => letters.slice(start, ends[i]).join(''));
}

type How = {
  mark: string;
  nth: number;
  counted: 'from the left' | 'from the right';
  cuts: readonly number[];
  expression: Pattern | undefined;
};

/** Cuts a text into its parts; what is not cut is one part. */
function cutter(
  where: (typeof cutWays)[number],
  { mark, nth, counted, cuts, expression }: How,
): (text: string) => string[] {
  switch (where) {
    case 'between quantity and unit':
      return (text) => {
        const parts = /^([-−–+(]?\d[\d\s.,'’\u00a0\u202f\u2009]*[-−–)]?)\s*(\D.*)?$/u.exec(text.trim());
        return parts ? [parts[1], parts[2] ?? ''] : ['', text];
      };
    case 'at cuts':
      return (text) => cutAfter(text, cuts);
    case 'at a pattern':
      return (text) => expression?.split(text) ?? [text];
    case 'at every mark':
      return (text) => (mark === '' ? [text] : text.split(mark));
    case 'at a mark':
      return (text) => {
        const all = mark === '' ? [text] : text.split(mark);
        const at = counted === 'from the left' ? nth : all.length - nth;
        return at < 1 || at >= all.length ? [text] : [all.slice(0, at).join(mark), all.slice(at).join(mark)];
      };
  }
}
