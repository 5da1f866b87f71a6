import * as v from 'valibot';
import { holdsCentre, type Box } from '../page/box';
import { saysWhen } from '../values/date-texts';
import { baseName } from '../values/file-name';
import type { Cell } from '../values/cell';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import type { RowBook } from '../sheet/row';
import { freeNames, type Column } from '../sheet/column';
import { sheet as makeSheet } from '../sheet/sheet';
import { template, templateText, type Template } from '../values/template';
import { printedFor } from './printed-for';
import { field, step, when, widget, type Paper, type PaperLine } from './step';
import { own } from '../values/own';

export const stampSources = ['file name', 'page', 'table title', 'page text', 'line that says when', 'label'] as const;

/** Is it printed on the pages, where what stands nearest counts? */
const isOnPages = (from: (typeof stampSources)[number]): boolean =>
  from === 'page text' || from === 'line that says when' || from === 'label';

/** Values printed somewhere in a report, each with the words that say it. */
interface Said {
  readonly values: Record<string, string>;
  readonly words: Record<string, { readonly page: number; readonly words: readonly number[] }>;
}

/** One of the places in a report that say them. */
interface SaidAt extends Said {
  readonly page: number;
  readonly box: Box;
}

/** The same, found once for a page, a table or the whole report, the words as ids of the sheet's origins. */
interface Found {
  readonly values: Record<string, string>;
  readonly origins: Record<string, number>;
}

const originsOf = ({ origins }: RowBook, report: string, { words }: Said): Found['origins'] =>
  Object.fromEntries(
    Object.entries(words).map(([name, said]) => [name, origins.intern(report, said.page, said.words)]),
  );

export const stamp = step({
  kind: 'stamp',
  title: 'Stamp',
  group: 'columns',
  help: 'Puts a value printed elsewhere, or told by the file name, in front of every row. Each {hole} of the template becomes a column.',
  settings: {
    from: field(v.picklist(stampSources), 'From'),
    template: field(
      when(
        widget(v.optional(templateText, ''), { widget: 'template', of: 'from', whole: 'file name' }),
        'from',
        'file name',
        'table title',
        'page text',
      ),
      'Template',
      'Like week-{Week}.pdf or “Week ending {Week ending}”; [..] may be missing.',
    ),
    label: field(
      when(v.optional(v.string(), ''), 'from', 'label'),
      'Label',
      'The text beside or above the value, like Note number. Where it is printed several times, the rows of a table get what stands last above it.',
    ),
    side: field(
      when(v.optional(v.picklist(['right', 'below']), 'right'), 'from', 'label'),
      'The value stands',
      'Beside the label, or under it.',
    ),
    column: field(
      when(v.optional(v.string(), ''), 'from', 'page', 'label', 'table title', 'line that says when'),
      'Into column',
      'For the page, a label, a line that says nothing but a date or a period, or a title without a template.',
    ),
  },
  commutesWithAppend: true,
  needs: ({ from }) => (from === 'file name' ? ['file name'] : isOnPages(from) ? ['page text'] : []),
  describe: ({ from, template: text, column, label, side }) =>
    from === 'label'
      ? `what stands ${side === 'right' ? 'beside' : 'under'} “${label}”${column && column !== label ? ` into ${column}` : ''}`
      : from === 'line that says when'
        ? `the line that says when into ${column || 'When'}`
        : text
          ? `${text} from the ${from}`
          : `${from} into ${column || '(no column yet)'}`,
  run(sheet, { from, template: source, column, label, side }, { papers }) {
    const parts = source && from !== 'label' && from !== 'line that says when' ? template(source) : undefined;
    if ((from === 'file name' || from === 'page text') && !parts)
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'a template with a {hole}',
            came: 'none',
            remedy: 'Write the text around the value, with {Name} in its place.',
          },
        ],
      };
    if (from === 'label' && label.trim() === '')
      return {
        sheet,
        problems: [
          {
            kind: 'step',
            expected: 'a label',
            came: 'none',
            remedy: 'Write the text that stands beside or above the value.',
          },
        ],
      };
    const names =
      parts && from !== 'page'
        ? parts.holes
        : [
            column ||
              (from === 'label' ? label.replace(/[\s:.]+$/, '') : from === 'line that says when' ? 'When' : from),
          ];
    const cache = new Map<string, Found | undefined>();
    const told = new Set<string>();
    const searched = new Map<string, ReturnType<typeof printedFor<SaidAt>>>();
    const nearest = (report: string) => {
      const paper = papers(report);
      const own =
        searched.get(report) ??
        printedFor(paper, (page) =>
          from === 'label'
            ? labelledIn(paper, page, label, side, names[0])
            : from === 'page text'
              ? linesLike(paper, page, parts!)
              : linesThatSayWhen(paper, page, names[0]),
        );
      searched.set(report, own);
      return own;
    };
    const problems: Problem[] = [];
    const { rows } = sheet;
    const found = rows.map((row) => {
      const report = rows.report(row);
      const key =
        from === 'file name'
          ? report
          : `${report} ${from === 'page' ? '' : rows.table(row)} ${from === 'table title' ? '' : rows.page(row)}`;
      if (!cache.has(key)) {
        const paper = papers(report);
        const printed = isOnPages(from)
          ? nearest(report)(rows.table(row), rows.page(row))
          : findIn(paper, from, rows.page(row), rows.table(row), parts, names[0]);
        cache.set(key, printed && { values: printed.values, origins: originsOf(rows.book, report, printed) });
        // What is printed nowhere is missing for every table alike.
        if (!printed && (from === 'table title' || !told.has(report)))
          problems.push(
            from === 'label'
              ? notLabelled(label, side, report)
              : notFound(from, source, baseName(paper.path), report, rows.page(row)),
          );
        if (!printed) told.add(report);
      }
      return cache.get(key);
    });
    const free = freeNames(sheet.columns);
    const stamped = names.map((name): Column => {
      const cells: Cell[] = found.map((f) => (f && own(f.values, name)) ?? null);
      return {
        name: free(name),
        type: from === 'page' ? 'integer' : 'text',
        cells: from === 'page' ? cells.map((cell) => (cell === null ? null : Number(cell))) : cells,
        origins: Int32Array.from(found, (f) => (f && own(f.origins, name)) ?? nowhere),
      };
    });
    return { sheet: makeSheet([...stamped, ...sheet.columns], sheet.rows), problems };
  },
});

function findIn(
  paper: Paper,
  from: (typeof stampSources)[number],
  page: number,
  table: string,
  parts: Template | undefined,
  column: string,
): Said | undefined {
  if (from === 'page') return { values: { [column]: String(page) }, words: {} };
  if (from === 'file name') {
    const values = parts!.whole(baseName(paper.path));
    return values && { values, words: {} };
  }
  const title = paper.title(table);
  if (!title) return undefined;
  const values = parts ? parts.within(title.text)?.values : { [column]: title.text };
  return values && { values, words: Object.fromEntries(Object.keys(values).map((name) => [name, title])) };
}

/** The lines of a page that read like the template: of one that white space parts a text, else all of it. */
function linesLike(paper: Paper, page: number, parts: Template): SaidAt[] {
  return paper.lines(page).flatMap((line): SaidAt[] => {
    const inPhrases = (line.phrases ?? []).flatMap((phrase) => saidIn(phrase, page, parts));
    return inPhrases.length > 0 ? inPhrases : saidIn(line, page, parts);
  });
}

/** What a text says, where it reads like the template. */
function saidIn({ text, words, starts, box }: PaperLine, page: number, parts: Template): SaidAt[] {
  const match = parts.within(text);
  if (!match) return [];
  const wordsOf = ([start, end]: readonly [number, number]) =>
    words.filter((_, i) => starts[i] < end && (starts[i + 1] ?? Infinity) > start);
  return [
    {
      page,
      box,
      values: match.values,
      words: Object.fromEntries(
        Object.entries(match.spans).map(([name, span]) => [name, { page, words: wordsOf(span) }]),
      ),
    },
  ];
}

/** The lines of a page outside its tables that say nothing but a date or a period. */
const linesThatSayWhen = (paper: Paper, page: number, column: string): SaidAt[] =>
  paper
    .lines(page)
    .flatMap((line) => line.phrases ?? [line])
    .filter(
      ({ text, box }) =>
        saysWhen(text.trim()) && !paper.pieces.some((piece) => piece.page === page && holdsCentre(piece.box, box)),
    )
    .map(({ text, words, box }) => ({
      page,
      box,
      values: { [column]: text.trim() },
      words: { [column]: { page, words } },
    }));

const labelledIn = (paper: Paper, page: number, label: string, side: 'right' | 'below', column: string): SaidAt[] =>
  paper
    .labelled(page, label, side)
    .map((value) => ({ page, box: value.box, values: { [column]: value.text }, words: { [column]: value } }));

const notLabelled = (label: string, side: 'right' | 'below', report: string): Problem => ({
  kind: 'step',
  report,
  expected: `a value ${side === 'right' ? 'beside' : 'under'} the label “${label}”`,
  came: 'none',
  remedy: 'Point at the value in this report too; its rows are blank there.',
});

const notFound = (from: string, source: string, fileName: string, report: string, page: number): Problem => ({
  kind: 'step',
  report,
  ...(from === 'file name' ? {} : { page }),
  expected:
    from === 'line that says when'
      ? 'a line that says nothing but a date or a period'
      : `“${source || from}” in the ${from}`,
  came: from === 'file name' ? `“${fileName}”` : 'no text like it',
  remedy:
    from === 'line that says when'
      ? 'Stamp it from another place, or by a template; its rows are blank there.'
      : 'Change the template so that it fits this report too; its rows are blank there.',
});
