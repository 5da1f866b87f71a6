import type { Found, Seen } from './difference';

/**
 * Texts that do not fit their column in reports that come to a dataset which is there: while steps are designed, misfits are
 * seen; in a report that comes later, nobody looks.
 */
export function newMisfits(seen: readonly Seen[]): Found[] {
  const known = seen.filter((each) => each.known);
  if (known.length === 0) return [];
  const seenTexts = new Set(
    known.flatMap(({ traits }) =>
      traits.misfits.flatMap(({ column, texts }) => texts.map((text) => JSON.stringify([column, text]))),
    ),
  );
  const found = new Map<string, Omit<Found, 'at'> & { at: number[] }>();
  seen.forEach((each, i) => {
    if (each.known) return;
    for (const { column, texts } of each.traits.misfits) {
      const fresh = texts.filter((text) => !seenTexts.has(JSON.stringify([column, text])));
      if (fresh.length === 0) continue;
      const now =
        fresh
          .slice(0, mostTold)
          .map((text) => `“${text}”`)
          .join(', ') + (fresh.length > mostTold ? ' ...' : '');
      const key = JSON.stringify([column, now]);
      const same = found.get(key);
      if (same) same.at.push(i);
      else
        found.set(key, {
          what: 'misfits',
          rule: '',
          column,
          now,
          at: [i],
          holds: true,
          proposals: [{ decided: 'as it is' }, { decided: 'hold back' }],
        });
    }
  });
  return [...found.values()];
}

const mostTold = 3;
