import type { PageContent } from '../page/page';
import { severityOf, type Problem } from '../sheet/problem';
import type { CarriedReport } from './carry';

/** Does every page show a picture and no text? */
export const isScanned = (pages: readonly PageContent[]): boolean =>
  pages.length > 0 && pages.every((page) => page.words.length === 0 && page.pictures.length > 0);

/** Why nothing of a report may go into the dataset: it is a picture, a page cannot be read, nothing was taken; none: it may. */
export function heldBackBecause(
  { pages, problems }: { readonly pages: readonly PageContent[]; readonly problems: readonly Problem[] },
  { matches, problems: carried }: Pick<CarriedReport, 'matches' | 'problems'>,
): readonly Problem[] {
  if (isScanned(pages))
    return [
      {
        kind: 'scanned',
        expected: 'text on its pages',
        came: `a scanned picture on each of ${pages.length} ${pages.length === 1 ? 'page' : 'pages'}`,
        remedy: 'Its text must be recognised before it can be read.',
      },
    ];
  const damaged = problems.filter((problem) => severityOf(problem) === 'stops');
  if (damaged.length > 0) return damaged;
  const stopping = carried.filter((problem) => severityOf(problem) === 'stops');
  if (stopping.length > 0) return stopping;
  if (matches.length > 0) return [];
  return carried.length > 0
    ? carried
    : [
        {
          kind: 'not taken',
          expected: 'a rule that takes a table',
          came: 'none',
          remedy: 'Take a table in the intake.',
        },
      ];
}
