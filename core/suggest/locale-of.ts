import { cellText, isBlank } from '../values/cell';
import { isNumeric } from '../values/format';
import { asLocale } from '../values/marks';
import { localeNames, locales, type LocaleName } from '../values/locale';
import { languageOf } from './language-words';
import { workOut } from '../values/work-out';
import type { Sheet } from '../sheet/sheet';

/** So many texts of a column tell how its numbers and dates are printed. */
const mostTexts = 120;

/** What the language of the paper counts: less than any value that tells. */
const written = 0.01;

/**
 * The locale in which most columns are read as more than text, with the fewest misfits; of those that do as well the one whose words
 * are printed, or else the usual one.
 * @param printed texts of the papers beside the tables
 */
export function localeOf(sheets: readonly Sheet[], printed: readonly string[] = []): LocaleName {
  const texts = new Map<string, string[]>();
  for (const sheet of sheets)
    for (const { name, type, cells } of sheet.columns) {
      const own = texts.get(name) ?? [];
      texts.set(name, own);
      for (let row = 0; type === 'text' && own.length < mostTexts && row < cells.length; row++)
        if (!isBlank(cells[row])) own.push(cellText(cells[row]));
    }
  const columns = [...texts].filter(([, own]) => own.some((text) => /\d/.test(text)));
  const score = (name: LocaleName) =>
    columns.reduce((sum, [column, own]) => {
      const { format, misfits, doubt } = workOut({ name: column, texts: own }, locales[name]);
      // Numbers are read by other marks than the locale's too, where they must be.
      const foreign = isNumeric(format.type) && format.marks !== asLocale ? 0.1 : 0;
      return sum + (format.type === 'text' ? 0 : 1 - misfits / own.length - (doubt ? 0.25 : 0) - foreign);
    }, 0);
  const language = languageOf([
    ...printed,
    ...sheets.flatMap(({ columns }) => columns.map(({ name }) => name)),
    ...[...texts.values()].flat(),
  ]);
  const scored = localeNames.map((name) => ({ name, score: score(name) + (name === language ? written : 0) }));
  return scored.reduce(
    (a, b) => (b.score > a.score + 1e-6 ? b : a),
    scored.find(({ name }) => name === 'en-GB')!,
  ).name;
}
