import { cellText } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import type { Around } from '../steps/step';
import { changedCount, heldCount, offer, short, type Offer, type Wanted } from './for-selection';
import { plural } from './sheets-seen';

/** Some letters of a cell's text. */
export interface PartOfText {
  readonly row: number;
  readonly column: number;
  /** Places of the first letter, and behind the last, in the text as it is written. */
  readonly from: number;
  readonly to: number;
}

const isMark = (text: string) => text !== '' && !/[\p{L}\p{N}]/u.test(text);
/** What stands between two parts of a text: no letter and no digit. */
const markAtStart = (text: string) => /^[^\p{L}\p{N}]+/u.exec(text)?.[0] ?? '';
const markAtEnd = (text: string) => /[^\p{L}\p{N}]+$/u.exec(text)?.[0] ?? '';
const lettersIn = (text: string) => [...text].length;

/** What may be wanted of a part of a text: its column cut there, rows that have it too, or the part gone from all texts. */
export function offersForPart(sheet: Sheet, { row, column: at, from, to }: PartOfText, around: Around): Offer[] {
  const column = sheet.columns[at];
  const text = cellText(column.cells[row]);
  const part = text.slice(from, to);
  if (part === '') return [];
  const [before, after] = [text.slice(0, from), text.slice(to)];
  return [...wanted(column.name, part, before, after, column.cells.map(cellText))].flatMap(
    (each) => offer(sheet, each, around) ?? [],
  );
}

function* wanted(
  column: string,
  part: string,
  before: string,
  after: string,
  texts: readonly string[],
): Generator<Wanted> {
  const cut = cutAt(part, before, after);
  if (cut) {
    const count = texts.filter((text) => cut.cuts(text)).length;
    yield {
      kind: 'split column',
      settings: { column, ...cut.settings },
      makes: true,
      says: () => `cut ${plural(count, 'text')} ${cut.where}`,
    };
  }
  const word = part.trim();
  if (!isMark(part) && word !== '') {
    const [test, one, many] =
      before.trim() === ''
        ? ['starts with', 'begins with', 'begin with']
        : after.trim() === ''
          ? ['ends with', 'ends with', 'end with']
          : ['contains', 'has', 'have'];
    const rows = (count: number) => `${plural(count, 'row')} that ${count === 1 ? one : many}`;
    yield {
      kind: 'sift rows',
      settings: { conditions: [{ of: { is: 'column', name: column }, test, value: word }] },
      says: (result) => `hold ${rows(heldCount(result))} “${short(word)}”`,
    };
    yield {
      kind: 'sift rows',
      settings: { hold: 'all others', conditions: [{ of: { is: 'column', name: column }, test, value: word }] },
      says: (result) => `keep only ${rows(result.sheet.rows.length)} it`,
    };
  }
  // Where it stands at an end the gap beside it goes too.
  const gone = before.trim() === '' ? part + markAtStart(after) : after.trim() === '' ? markAtEnd(before) + part : part;
  if (gone !== before + part + after)
    yield {
      kind: 'find and replace',
      settings: { columns: { by: 'names', names: [column] }, find: 'a text', text: gone, replace: '', matchCase: true },
      says: (result) => `take “${short(gone.trim() || gone)}” out of ${plural(changedCount(result), 'text')}`,
    };
}

interface Cut {
  readonly settings: Record<string, unknown>;
  /** Where, in words. */
  readonly where: string;
  readonly cuts: (text: string) => boolean;
}

/** How a text is cut where the part stands: at the mark that it is, at the mark that parts it from the rest, or after so many letters. */
function cutAt(part: string, before: string, after: string): Cut | undefined {
  const atMark = (mark: string, nth: number, counted: 'from the left' | 'from the right'): Cut => {
    const said = mark.trim() === '' ? 'space' : `“${mark}”`;
    return {
      settings: { where: 'at a mark', mark, nth, counted },
      where:
        nth > 1
          ? `at ${said} number ${nth} ${counted}`
          : `at the ${counted === 'from the left' ? 'first' : 'last'} ${said}`,
      cuts: (text) => text.split(mark).length > nth,
    };
  };
  if (isMark(part))
    return before.trim() === '' || after.trim() === ''
      ? undefined
      : atMark(part, before.split(part).length, 'from the left');
  if (before.trim() === '' && after.trim() === '') return undefined;
  const [left, right] = [markAtEnd(before), markAtStart(after)];
  if (before.trim() === '' && right !== '') return atMark(right, part.split(right).length, 'from the left');
  if (after.trim() === '' && left !== '') return atMark(left, part.split(left).length, 'from the right');
  // Nothing parts it from what stands beside it: it is known by its place.
  const cuts =
    before.trim() === ''
      ? [lettersIn(part)]
      : after.trim() === ''
        ? [-lettersIn(part)]
        : [lettersIn(before), lettersIn(before) + lettersIn(part)];
  const where =
    before.trim() === ''
      ? `after ${plural(lettersIn(part), 'letter')}`
      : after.trim() === ''
        ? `before the last ${plural(lettersIn(part), 'letter')}`
        : `after ${lettersIn(before)} and ${plural(lettersIn(before) + lettersIn(part), 'letter')}`;
  return {
    settings: { where: 'at cuts', cuts },
    where,
    cuts: (text) => lettersIn(text) > Math.max(...cuts.map(Math.abs)),
  };
}
