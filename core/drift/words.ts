import type { Problem } from '../sheet/problem';
import type { Answer, Decision } from './answers';
import type { Difference, Proposal, Span } from './difference';

const quoted = (name: string) => `“${name}”`;
const counted = (n: number) => `${n} ${n === 1 ? 'report' : 'reports'}`;
const mostNamed = 3;

function spanWords({ how, at }: Span, reports: number): string {
  switch (how) {
    case 'from':
      return `From ${at[0]} on (${counted(reports)})`;
    case 'until':
      return `Until ${at[0]} (${counted(reports)})`;
    case 'only':
      return `Only in ${at[0]}`;
    case 'all':
      return `In all ${counted(reports)}`;
    case 'in':
      return `In ${at.slice(0, mostNamed).join(', ')}${at.length > mostNamed ? ' ...' : ''} (${counted(reports)})`;
  }
}

/** What is different, without of which reports. */
function clauseOf({ what, column, other, before, now }: Difference): string {
  switch (what) {
    case 'new column':
      return other === undefined
        ? `a column ${quoted(column)} stands ${now === 'alone' ? 'alone' : now}`
        : `${quoted(column)} stands where ${quoted(other)} stood`;
    case 'missing column':
      return `the column ${quoted(column)} is missing`;
    case 'swapped':
      return `what stands under ${quoted(column)} looks like ${quoted(other!)}, and the other way round`;
    case 'other contents':
      return `${quoted(column)} holds ${now}, where it held ${before}`;
    case 'other size':
      return `the numbers of ${quoted(column)} are ${now} as before`;
    case 'other unit':
      return `${column === '' ? 'the numbers are' : `${quoted(column)} is`} printed ${now === '' ? 'without a unit' : `in ${now}`}, where it was ${before === '' ? 'without one' : before}`;
    case 'other scale':
      return now === ''
        ? `nothing above the table says ${quoted(before!)} any more`
        : `above the table stands ${quoted(now!)}, where ${before === '' ? 'nothing was said of a scale' : `${quoted(before!)} stood`}`;
    case 'other marks':
      return `numbers are printed with ${now}, where they were with ${before}`;
    case 'rows':
      return `the table has ${now} ${now === '1' ? 'row' : 'rows'}, where the others have ${before}`;
    case 'sum':
      return `${quoted(column)} sums up to about ${now}, where it was ${before} before`;
    case 'blanks':
      return `${quoted(column)} is blank in ${now} rows, where it hardly ever was`;
    case 'misfits':
      return `${now} ${now!.includes('”, “') ? 'do' : 'does'} not fit the type of ${quoted(column)}`;
    case 'order':
      return `the columns stand in another order: ${now}`;
    case 'heading rows':
      return `the table has ${now} heading ${now === '1' ? 'row' : 'rows'}, where it had ${before}`;
    case 'tables':
      return `there ${now!.startsWith('1 ') ? 'is' : 'are'} ${now}, where there ${before!.startsWith('1 ') ? 'was' : 'were'} ${before}`;
  }
}

/** The difference in one sentence, for all reports that have it. */
export function differenceSentence(difference: Difference): string {
  const clause = `${spanWords(difference.span, difference.reports.length)}, ${clauseOf(difference)}.`;
  return difference.stopped
    ? `${clause} ${difference.reports.length === 1 ? 'It is' : 'They are'} held back, as you decided.`
    : clause;
}

/** What an answer is called on its button. */
export function decisionWords(
  { what, column }: Pick<Difference, 'what' | 'column'>,
  { decided, other }: Pick<Proposal, 'decided' | 'other'>,
): string {
  const words: Record<Decision, string> = {
    'same as': `It is “${other}”`,
    'as it is':
      what === 'new column'
        ? 'A new column, blank before'
        : what === 'missing column'
          ? `Blank there`
          : what === 'misfits'
            ? 'Let them be error cells'
            : 'It is right so',
    'leave out': `Leave “${column}” out`,
    'swap back': `Swapped on paper: put them back`,
    'hold back': 'Keep these reports out',
  };
  return words[decided];
}

/** The difference as the problem of one of its reports. */
export function differenceProblem(difference: Difference, report: string): Problem {
  const { column, page, holds, stopped, reports } = difference;
  return {
    kind: holds ? 'differs' : 'drift',
    report,
    ...(page === undefined || reports[0] !== report ? {} : { page }),
    ...(column === '' ? {} : { column }),
    expected: 'what the reports before look like',
    came: `something else: ${clauseOf(difference)}`,
    remedy: stopped
      ? 'It is held back, as you decided; the answer can be changed under “What needs you”.'
      : holds
        ? 'Answer it once under “What needs you”; the report is held back until then.'
        : 'Look at it under “What needs you”.',
  };
}

/** An answer that was given, in words. */
export function answerSentence({ what, column, decided, other, from, only, reports }: Answer): string {
  const named = column === '' ? subjects[what] : quoted(column);
  const decidedWords: Record<Decision, string> = {
    'same as': `${named} is ${quoted(other!)}`,
    'as it is':
      what === 'new column'
        ? `${named} is a new column`
        : what === 'missing column'
          ? `${named} may be missing`
          : what === 'misfits'
            ? `Misfits of ${named} are error cells`
            : `${named}: right as it is${what === 'other size' ? ', though of another size' : what === 'other contents' ? ', though other contents stand there' : ''}`,
    'leave out': `${named} is left out`,
    'swap back': `${named} and ${quoted(other!)} are put back`,
    'hold back': `${named}: kept out`,
  };
  const where = only
    ? `in ${reports.slice(0, mostNamed).join(', ')}${reports.length > mostNamed ? ` and ${reports.length - mostNamed} more` : ''} only`
    : from === undefined
      ? 'in all reports'
      : `from ${from} on`;
  return `${decidedWords[decided]}, ${where}.`;
}

/** What a difference of a whole table is about. */
const subjects: Readonly<Record<Answer['what'], string>> = {
  'new column': 'A column',
  'missing column': 'A column',
  swapped: 'Columns',
  'other contents': 'The contents',
  'other size': 'The sizes',
  'other unit': 'The unit',
  'other scale': 'The scale above the table',
  'other marks': 'The decimal marks',
  order: 'The order of columns',
  'heading rows': 'The number of heading rows',
  tables: 'The number of tables',
  rows: 'The number of rows',
  sum: 'The sum',
  blanks: 'Blanks',
  misfits: 'Misfits',
};
