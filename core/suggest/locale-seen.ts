import { cellText, isBlank } from '../values/cell';
import { isNumeric } from '../values/format';
import { asLocale } from '../values/marks';
import { localeNames, locales, type LocaleName } from '../values/locale';
import { workOut } from '../values/work-out';
import { reportSheet } from './sheets-seen';
import type { Seen } from './suggestion';

/** So many texts of a column tell how its numbers and dates are printed. */
const mostTexts = 120;

const known = new WeakMap<Seen['reports'], LocaleName>();

/** The locale in which most columns are read as more than text, with the fewest misfits; of those that do as well the usual one. */
export function localeSeen({ reports }: Seen): LocaleName {
  const before = known.get(reports);
  if (before) return before;
  const texts = new Map<string, string[]>();
  for (const report of reports)
    for (const { name, type, cells } of reportSheet(report).columns) {
      const own = texts.get(name) ?? [];
      texts.set(name, own);
      if (type === 'text') for (const cell of cells) if (own.length < mostTexts && !isBlank(cell)) own.push(cellText(cell));
    }
  const columns = [...texts].filter(([, own]) => own.some((text) => /\d/.test(text)));
  const score = (name: LocaleName) =>
    columns.reduce((sum, [column, own]) => {
      const { format, misfits, doubt } = workOut({ name: column, texts: own }, locales[name]);
      // Numbers are read by other marks than the locale's too, where they must be.
      const foreign = isNumeric(format.type) && format.marks !== asLocale ? 0.1 : 0;
      return sum + (format.type === 'text' ? 0 : 1 - misfits / own.length - (doubt ? 0.25 : 0) - foreign);
    }, 0);
  const scored = localeNames.map((name) => ({ name, score: score(name) }));
  const best = scored.reduce((a, b) => (b.score > a.score + 1e-6 ? b : a), scored.find(({ name }) => name === 'en-GB')!);
  known.set(reports, best.name);
  return best.name;
}
