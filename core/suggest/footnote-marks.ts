import { raised } from '../steps/tidy-text';
import { plural, reportSheet } from './sheets-seen';
import type { Detector } from './suggestion';

/** A number as it is printed, a mark behind it taken off. */
const isAmount = (text: string): boolean => /^[-+(]?[\d.,'\s]*\d\)?%?$/.test(text);
/** Marks that are nothing else; an asterisk may be part of a code. */
const isSign = (mark: string): boolean => /[†‡§⁰¹²³⁴⁵⁶⁷⁸⁹]/u.test(mark);

/** A line that says what a mark means. */
const explains = /^([*†‡§⁰¹²³⁴⁵⁶⁷⁸⁹]+)\s*\p{L}.*\s/u;

/** Marks of footnotes behind texts and amounts, which keep a text from being the same as others and an amount from being a number. */
export const footnoteMarks: Detector = ({ reports }) => {
  const explained = new Set(
    reports.flatMap(({ carried: { paper } }) =>
      paper.pages.flatMap((page) => paper.lines(page).flatMap(({ text }) => explains.exec(text)?.[1] ?? [])),
    ),
  );
  const texts = new Map<string, string[]>();
  for (const sheet of reports.map(reportSheet))
    for (const { name, cells } of sheet.columns) {
      const own = texts.get(name) ?? [];
      for (const cell of cells) if (typeof cell === 'string' && cell !== '') own.push(cell);
      texts.set(name, own);
    }
  const found = [...texts].flatMap(([name, all]) => {
    const marked = all.flatMap((text) => {
      const mark = raised.exec(text)?.[0];
      const bare = mark === undefined ? '' : text.slice(0, -mark.length).trim();
      // A raised digit behind a letter may be that of a unit: m².
      return bare === '' || (/^[²³]$/.test(mark!) && /\p{L}$/u.test(bare)) ? [] : [{ text, bare, mark: mark! }];
    });
    // What most texts end in is part of them, unless the paper says what it means.
    if (marked.length === 0 || (marked.length * 2 >= all.length && !marked.every(({ mark }) => explained.has(mark))))
      return [];
    const plain = new Set(all.filter((text) => !raised.test(text)));
    const amounts = [...plain].filter(isAmount).length * 2 > plain.size;
    const meant = marked.every(({ bare, mark }) =>
      amounts ? isAmount(bare) : plain.has(bare) || isSign(mark) || explained.has(mark),
    );
    return meant ? [{ name, count: marked.length, such: marked[0].text }] : [];
  });
  if (found.length === 0) return [];
  const count = found.reduce((sum, each) => sum + each.count, 0);
  return [
    {
      zone: 'eachReport',
      kind: 'tidy text',
      settings: {
        columns: { by: 'names', names: found.map(({ name }) => name) },
        spaces: true,
        forms: false,
        marks: 'go',
      },
      name: 'Take footnote marks off',
      reason: `${plural(count, 'text')} of “${found.map(({ name }) => name).join('”, “')}” ${count === 1 ? 'ends' : 'end'} in footnote marks, such as “${found[0].such}”`,
    },
  ];
};
