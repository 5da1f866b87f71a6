import { readerOf, type Format } from './format';
import type { Locale } from './locale';
import { markNames, type MarkName } from './marks';
import { isNil } from './number';
import { misfit, withoutMarks, type Parsed } from './parsed';
import { shapesOf } from './shapes';

export interface OwnMarks {
  /** The ways of printing numbers under which most of the texts are numbers. */
  readonly styles: readonly MarkName[];
  /** Reads a text; one that these ways read differently is a misfit, never a guess. */
  read(text: string): Parsed;
}

/**
 * The marks with which some texts are printed, such as the numbers of one report, told by the texts themselves: "1,234.5" and
 * "12,5" each say where the decimals are, "1,234" does not.
 */
export function ownMarks(texts: readonly (string | null)[], format: Format, locale: Locale): OwnMarks {
  const shapes = shapesOf(texts).shapes.filter(({ example }) => !isNil(withoutMarks(example), locale));
  // With decimals everything fits that is a number at all: which marks they are is the question here.
  const asDecimals: Format = { ...format, type: format.type === 'integer' ? 'decimal' : format.type };
  const fits = markNames.map((marks) => {
    const read = readerOf({ ...asDecimals, marks }, locale);
    return {
      marks,
      count: shapes.reduce((sum, { example, count }) => sum + ('value' in read(example) ? count : 0), 0),
    };
  });
  const most = Math.max(...fits.map(({ count }) => count));
  const styles = fits.filter(({ count }) => count === most).map(({ marks }) => marks);
  const readers = styles.map((marks) => ({
    own: readerOf({ ...format, marks }, locale),
    asDecimal: readerOf({ ...asDecimals, marks }, locale),
  }));
  return {
    styles,
    read(text) {
      const [first, ...others] = readers;
      const value = valueOf(first.asDecimal(text));
      if (others.some(({ asDecimal }) => valueOf(asDecimal(text)) !== value))
        return misfit(
          'a number whose marks the other numbers of its report tell: this one could have its decimals or its thousands after the mark',
        );
      return first.own(text);
    },
  };
}

const valueOf = (parsed: Parsed) => ('value' in parsed ? parsed.value : undefined);

/** Are these printed in ways that exclude each other? */
export function printedDifferently(all: readonly OwnMarks[]): boolean {
  const [first, ...others] = all;
  return first !== undefined && !first.styles.some((style) => others.every(({ styles }) => styles.includes(style)));
}
