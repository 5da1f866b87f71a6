import { isBlank } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import type { Around } from '../steps/step';
import { changedCount, offer, type Offer, type Wanted } from './for-selection';
import { plural } from './sheets-seen';

/** What may be wanted at the edge between two columns: they become one, what slipped over it moves back, or the sheet is parted there. @param left place of the column left of it */
export function offersForEdge(sheet: Sheet, left: number, around: Around): Offer[] {
  return left + 1 < sheet.columns.length
    ? [...wanted(sheet, left)].flatMap((each) => offer(sheet, each, around) ?? [])
    : [];
}

function* wanted({ columns }: Sheet, left: number): Generator<Wanted> {
  const [one, other] = columns.slice(left, left + 2);
  const [before, behind] = [
    columns.slice(0, left + 1).map(({ name }) => name),
    columns.slice(left + 1).map(({ name }) => name),
  ];
  const both = { by: 'names', names: [one.name, other.name] };
  // Where never both are filled one text slipped over the edge: nothing is between them.
  if (one.cells.every((cell, row) => isBlank(cell) || isBlank(other.cells[row])))
    yield {
      kind: 'close gaps',
      settings: { columns: both, to: 'the left' },
      says: (result) => `move ${plural(changedCount(result), 'cell')} over the edge to “${one.name}”`,
    };
  yield {
    kind: 'concatenate columns',
    settings: { columns: both, into: one.name },
    makes: true,
    says: () => `join “${one.name}” and “${other.name}” into one column`,
  };
  if (columns.length % before.length === 0)
    yield {
      kind: 'stack blocks',
      settings: { sides: { by: 'names', names: [] }, by: 'every so many columns', columns: before.length },
      makes: true,
      says: (result) =>
        `put blocks of ${plural(before.length, 'column')} under one another: ${plural(result.sheet.rows.length, 'row')}`,
    };
  yield {
    kind: 'pick columns',
    settings: { columns: { by: 'names', names: before } },
    says: () => `keep only the ${plural(before.length, 'column')} left of it`,
  };
  yield {
    kind: 'pick columns',
    settings: { columns: { by: 'names', names: behind } },
    says: () => `keep only the ${plural(behind.length, 'column')} right of it`,
  };
}
