import * as v from 'valibot';
import { isFault, parseFormula } from '../formula/parse';
import { countHole } from './printed-count';

const column = v.pipe(v.string(), v.minLength(1, 'Name a column.'));
const columns = v.pipe(v.array(column), v.minLength(1, 'Name at least one column.'));
const bound = v.optional(v.pipe(v.number(), v.finite()));

/** What becomes of a report that fails: it is told, the report is held back, or the refresh ends and nothing is published. */
export const severities = ['tell', 'hold back', 'stop'] as const;
export type CheckSeverity = (typeof severities)[number];

const common = {
  id: v.pipe(v.string(), v.minLength(1)),
  severity: v.optional(v.picklist(severities), 'tell'),
  why: v.optional(v.string()),
};

/** Something that must hold in each report, as its rows enter the dataset. */
export const check = v.variant('kind', [
  /** So many rows. */
  v.object({ ...common, kind: v.literal('rows'), least: bound, most: bound }),
  /** No two rows have the same in these columns. */
  v.object({
    ...common,
    kind: v.literal('unique'),
    columns,
    over: v.optional(v.picklist(['report', 'dataset']), 'report'),
  }),
  v.object({ ...common, kind: v.literal('filled'), columns }),
  /** Numbers, or dates as ISO text, from one to another. */
  v.object({
    ...common,
    kind: v.literal('range'),
    column,
    least: v.optional(v.union([v.number(), v.string()])),
    most: v.optional(v.union([v.number(), v.string()])),
  }),
  v.object({ ...common, kind: v.literal('allowed'), column, values: v.array(v.string()) }),
  /** The columns add up to another, row by row. */
  v.object({ ...common, kind: v.literal('sum'), columns, is: column }),
  /** The product of two columns is another, rounded as that is. */
  v.object({
    ...common,
    kind: v.literal('product'),
    columns: v.pipe(columns, v.length(2, 'A product is of two columns.')),
    is: column,
  }),
  /** The balance of each row is that of the row before, with what came in and without what went out. */
  v.object({
    ...common,
    kind: v.literal('balance'),
    balance: column,
    plus: v.optional(v.array(column), []),
    minus: v.optional(v.array(column), []),
  }),
  /** As many rows as the paper states: a number that a step stamped on every row. */
  v.object({ ...common, kind: v.literal('stated rows'), column }),
  /** As many rows as lines of the paper state, such as "128 entries": the text of the line with {n} for the number. */
  v.object({
    ...common,
    kind: v.literal('printed count'),
    line: v.pipe(
      v.string(),
      v.trim(),
      v.includes(countHole, `Write ${countHole} where the number stands, as in “${countHole} entries”.`),
    ),
  }),
  /** A column adds up to what another states on every row: a total that a step stamped. */
  v.object({ ...common, kind: v.literal('stated sum'), column, is: column }),
  /** A column adds up to a number, such as shares to 100: over the report, or for each value of some columns. */
  v.object({
    ...common,
    kind: v.literal('adds up to'),
    column,
    is: v.pipe(v.number(), v.finite()),
    by: v.optional(v.array(column), []),
  }),
  /** A formula is true in every row, or blank. */
  v.object({
    ...common,
    kind: v.literal('formula'),
    formula: v.pipe(
      v.string(),
      v.check((text) => !isFault(parseFormula(text)), 'Write a formula that is true or false.'),
    ),
  }),
  /** The dataset says the same as a list, row by row: a CSV that was uploaded, or another dataset. */
  v.object({
    ...common,
    kind: v.literal('agrees with'),
    from: v.object({ is: v.picklist(['file', 'dataset']), name: v.pipe(v.string(), v.minLength(1)) }),
    keys: v.pipe(
      v.array(v.object({ column, of: column })),
      v.minLength(1, 'Name at least one column that tells which row is meant.'),
    ),
    columns: v.optional(v.array(v.object({ column, of: column })), []),
  }),
]);
export type Check = v.InferOutput<typeof check>;

/** Does it need the rows of all reports? Others are worked out report by report. */
export const isOverDataset = (of: Check): boolean =>
  of.kind === 'agrees with' || (of.kind === 'unique' && of.over === 'dataset');

/** Those of some problems for which a report is held back by what a check that it fails says. */
export function heldByChecks<Failing extends { readonly check?: string }>(
  problems: readonly Failing[],
  checks: readonly Check[],
): Failing[] {
  const holding = new Set(checks.flatMap(({ id, severity }) => (severity === 'hold back' ? [id] : [])));
  return problems.filter(({ check: failed }) => failed !== undefined && holding.has(failed));
}

const quoted = (names: readonly string[]) => {
  const all = names.map((name) => `“${name}”`);
  return all.length < 2 ? (all[0] ?? '') : `${all.slice(0, -1).join(', ')} and ${all.at(-1)}`;
};

/** What a check demands, in a sentence. */
export function checkSentence(of: Check): string {
  switch (of.kind) {
    case 'rows':
      return `A report has ${between(of.least, of.most)} rows`;
    case 'unique':
      return `${quoted(of.columns)} ${of.columns.length === 1 ? 'is' : 'together are'} unique in ${of.over === 'dataset' ? 'the dataset' : 'each report'}`;
    case 'filled':
      return `${quoted(of.columns)} ${of.columns.length === 1 ? 'is' : 'are'} never blank`;
    case 'range':
      return `“${of.column}” is ${between(of.least, of.most)}`;
    case 'allowed':
      return `“${of.column}” is one of ${of.values
        .slice(0, mostNamed)
        .map((value) => `“${value}”`)
        .join(', ')}${of.values.length > mostNamed ? ` and ${of.values.length - mostNamed} more` : ''}`;
    case 'sum':
      return `${quoted(of.columns)} add up to “${of.is}”`;
    case 'agrees with':
      return `The dataset agrees with “${of.from.name}”${of.columns.length > 0 ? ` in ${quoted(of.columns.map((each) => each.column))}` : ''}, by ${quoted(of.keys.map((each) => each.column))}`;
    case 'balance':
      return `“${of.balance}” is the one before${of.plus.length > 0 ? ` plus ${quoted(of.plus)}` : ''}${of.minus.length > 0 ? ` less ${quoted(of.minus)}` : ''}`;
    case 'stated rows':
      return `A report has as many rows as “${of.column}” states`;
    case 'printed count':
      return `A report has as many rows as its line “${of.line}” states`;
    case 'stated sum':
      return `“${of.column}” adds up to what “${of.is}” states`;
    case 'adds up to':
      return `“${of.column}” adds up to ${of.is}${of.by.length > 0 ? ` for each ${quoted(of.by)}` : ''}`;
    case 'formula':
      return `It is true that ${of.formula.replace(/\s+/g, ' ').trim()}`;
    case 'product':
      return `“${of.columns[0]}” times “${of.columns[1]}” is “${of.is}”`;
  }
}

const mostNamed = 4;

const between = (least: number | string | undefined, most: number | string | undefined): string =>
  least === undefined && most === undefined
    ? 'any number of'
    : most === undefined
      ? `at least ${least}`
      : least === undefined
        ? `at most ${most}`
        : least === most
          ? String(least)
          : `from ${least} to ${most}`;
