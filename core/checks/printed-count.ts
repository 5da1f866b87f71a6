/** Where the number stands in the form of a line. */
export const countHole = '{n}';

/** The paper of a report, as far as its lines are asked for. */
export interface Lines {
  readonly pages: readonly number[];
  lines(page: number): readonly { readonly text: string }[];
}

/** A line that states a number: its form is its text with a hole for the number. */
export interface StatedNumber {
  readonly form: string;
  readonly says: number;
  readonly page: number;
}

/** Longer lines are prose, or rows of tables. */
const longest = 60;
/** A whole number, its thousands parted or not, that is no part of another text. */
const wholeNumber = /(?<![\p{L}\d.,:/-])(?:\d{1,3}(?:[.,'’\u00a0\u202f ]\d{3})+|\d+)(?![\p{L}\d:/-]|\s?%|[.,]\d)/gu;

/** The lines of a report that state one whole number in words, such as "128 entries". */
export function statedNumbers(paper: Lines): StatedNumber[] {
  return paper.pages.flatMap((page) =>
    paper.lines(page).flatMap(({ text }): StatedNumber[] => {
      if (text.length > longest || !/\p{L}{2}/u.test(text)) return [];
      const [number, more] = text.matchAll(wholeNumber);
      const form = number && text.slice(0, number.index) + countHole + text.slice(number.index + number[0].length);
      return !number || more || /\d/.test(form)
        ? []
        : [{ form: form.trim(), says: Number(number[0].replace(/\D/g, '')), page }];
    }),
  );
}

/**
 * How many rows the lines of one form state: together, where each stands under rows of its own; or what all of them say alike.
 * @returns the number that fits the rows, else what they say together; the page of the last; undefined where there is no such line
 */
export function statedRows(
  stated: readonly StatedNumber[],
  form: string,
  rows: number,
): { readonly says: number; readonly page: number } | undefined {
  const own = stated.filter((each) => each.form === form);
  const last = own.at(-1);
  if (!last) return undefined;
  const alike = own.every(({ says }) => says === last.says);
  return { says: alike && last.says === rows ? rows : own.reduce((sum, { says }) => sum + says, 0), page: last.page };
}
