import * as v from 'valibot';
import { columnFrom, freeNames, type Column } from '../sheet/column';
import { sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice, describeChoice } from './column-choice';
import { remembered } from './remembered';
import { rewritten } from './rewrite';
import { field, step } from './step';

const cases = ['as printed', 'small letters', 'capitals', 'first letter of each word'] as const;
/** Marks of footnotes at the end of a text. */
export const raised = /[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁼⁽⁾ⁿ*†‡§]+$/u;

export const tidyText = step({
  kind: 'tidy text',
  title: 'Tidy text',
  group: 'values',
  help: 'Evens out spaces, line breaks, letters and marks of texts.',
  settings: {
    columns: field(columnChoice, 'In'),
    spaces: field(
      v.optional(v.boolean(), true),
      'Spaces',
      'One between words, none at the ends; line breaks become spaces.',
    ),
    letters: field(v.optional(v.picklist(cases), 'as printed'), 'Letters'),
    forms: field(
      v.optional(v.boolean(), true),
      'One form for look-alikes',
      'Ligatures, full-width letters and composed accents in their usual form; control characters go.',
    ),
    marks: field(v.optional(v.picklist(['stay', 'go', 'into a column']), 'stay'), 'Footnote marks'),
  },
  commutesWithAppend: true,
  describe: ({ columns, letters, marks }) =>
    [
      `In ${describeChoice(columns)}`,
      letters !== 'as printed' && letters,
      marks !== 'stay' && `footnote marks ${marks}`,
    ]
      .filter(Boolean)
      .join(', '),
  run(sheet, { columns, spaces, letters, forms, marks }) {
    const { columns: tidied, problems } = chosen(sheet, columns);
    const tidy = remembered((text: string): string => {
      const unmarked = marks === 'stay' ? text : text.replace(raised, '');
      const formed = forms ? normalised(unmarked) : unmarked;
      return cased(spaces ? formed.replace(/\s+/g, ' ').trim() : formed, letters);
    });
    const { sheet: passed, overwritten } = rewritten(sheet, tidied, 'tidied', (cell) =>
      typeof cell === 'string' ? tidy(cell) || null : cell,
    );
    if (marks !== 'into a column') return { sheet: passed, overwritten, problems };
    const free = freeNames(sheet.columns);
    const withMarks = passed.columns.flatMap((column): Column[] => {
      const before = tidied.find((each) => each.name === column.name);
      const own = before?.cells.map((cell) => (typeof cell === 'string' ? (raised.exec(cell)?.[0] ?? null) : null));
      if (!before || !own || own.every((mark) => mark === null)) return [column];
      return [column, columnFrom(before, free(`${column.name} mark`), own)];
    });
    return { sheet: makeSheet(withMarks, passed.rows), overwritten, problems };
  },
});

/** Raised digits keep their form: they are marks, not digits. */
const normalised = (text: string) =>
  text
    .split(/([⁰¹²³⁴⁵⁶⁷⁸⁹]+)/u)
    .map((part, i) => (i % 2 === 1 ? part : part.normalize('NFKC')))
    .join('')
    .replace(/[\u0000-\u0008\u000b-\u001f\u007f\u00ad\u200b-\u200f\ufeff]/g, '');

function cased(text: string, letters: (typeof cases)[number]): string {
  if (letters === 'small letters') return text.toLowerCase();
  if (letters === 'capitals') return text.toUpperCase();
  return letters === 'first letter of each word'
    ? text
        .toLowerCase()
        .replace(/(^|[\s\p{Pd}(/])(\p{L})/gu, (_, before: string, letter: string) => before + letter.toUpperCase())
    : text;
}
