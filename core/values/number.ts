import { isOneOf, type Locale } from './locale';
import { exampleOf, type Marks } from './marks';
import { misfit, value, withoutMarks, type Parsed } from './parsed';
import { withoutUnit } from './unit';

/** A double tells any two decimals of this many digits apart. */
export const exactDigits = 15;

export interface NumberFormat {
  readonly kind: 'integer' | 'decimal' | 'percent';
  readonly marks: Marks;
  /** What a dash means. */
  readonly nil: 'blank' | 'zero';
  /** What dots or a word printed where there is no value mean: "n/a" is no zero. */
  readonly absent: 'blank' | 'zero' | 'misfit';
  /** Unit or currency printed beside the numbers; "" for none. */
  readonly unit: string;
  /** Power of ten by which the printed number is multiplied: 3 where thousands are printed. */
  readonly shift: number;
}

const dash = /^(?:[-–—−]|--)$/;
const dots = /^(?:[.·]|\.\.\.?|…)$/;
const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&');

/** Sign, whole part with one group mark throughout, fraction, sign behind. */
function shapeOf({ decimal, groups, grouping }: Marks): RegExp {
  const mark = `[${groups.map(escaped).join('')}]`;
  const [first, rest = first] = grouping;
  const grouped =
    rest === first
      ? `(?!0)\\d{1,${first}}(${mark})\\d{${first}}(?:\\2\\d{${first}})*`
      : `(?!0)\\d{1,${rest}}(?:(${mark})\\d{${rest}})*(?:${mark})\\d{${first}}`;
  return new RegExp(`^([-−–+]?)(?:${grouped}|\\d+)(?:${escaped(decimal)}(\\d+))?([-−–]?)$`);
}

/** Dots, or a word of the locale, where no value is: unknown, not asked, not counted. */
const isAbsent = (text: string, locale: Locale): boolean => dots.test(text) || isOneOf(locale.nil, text);

/** Is nothing printed here but a sign or word for nothing? */
export const isNil = (text: string, locale: Locale): boolean => isDash(text) || isAbsent(text, locale);

/** A dash, also beside the sign of a currency. */
const isDash = (text: string): boolean =>
  dash.test(text) || (!/[\d\p{L}]/u.test(text) && dash.test(withoutUnit(text, '')!));

/**
 * A reader of printed numbers: groups and decimals by their marks, brackets or a minus at either end for negative,
 * unit, currency, percent and per mille signs either side. Footnote marks never belong to the number. Percent keeps the
 * printed number (12.5 % is 12.5, 5 ‰ is 0.5).
 */
export function numberReader(format: NumberFormat, locale: Locale): (text: string) => Parsed {
  const { kind, marks, nil, absent, unit, shift } = format;
  const shape = shapeOf(marks);
  const notDigits = /\D+/g;
  const expected = `${kind === 'integer' ? 'a whole number' : kind === 'percent' ? 'a percentage' : 'a number'} like ${exampleOf(marks, kind === 'integer' ? 'whole' : 'fraction')}${unit ? ` in ${unit}` : ''}`;
  const wrong = misfit(expected);
  const tooLong = misfit(`${expected} of at most ${exactDigits} digits`);
  const nothing = value(null);

  const exact = (text: string, negative: boolean, ten: number): Parsed => {
    const parts = shape.exec(text);
    if (!parts) return wrong;
    const fraction = parts[3];
    const end = text.length - parts[4].length - (fraction === undefined ? 0 : fraction.length + marks.decimal.length);
    const whole = text.slice(parts[1].length, end).replace(notDigits, '');
    if (kind === 'integer' && fraction !== undefined && ten === 0 && /[1-9]/.test(fraction)) return wrong;
    const digits = fraction === undefined ? whole : `${whole}.${fraction}`;
    if (digits.length > exactDigits && digits.replace('.', '').replace(/^0+/, '').length > exactDigits) return tooLong;
    const minus = (negative !== (parts[1] !== '' && parts[1] !== '+')) !== (parts[4] !== '');
    const number = Number(ten === 0 ? digits : `${digits}e${ten}`);
    return value(minus && number !== 0 ? -number : number);
  };

  return (text) => {
    // Most cells hold nothing but digits and marks.
    const plain = exact(text, false, shift);
    if (plain !== wrong) return plain;
    let rest = withoutMarks(text);
    if (rest === '') return nothing;
    if (isDash(rest)) return nil === 'zero' ? value(0) : nothing;
    if (isAbsent(rest, locale)) return absent === 'zero' ? value(0) : absent === 'misfit' ? wrong : nothing;
    if (!/\d/.test(rest)) return wrong;
    let negative = false;
    const bracketed = /^\((.*)\)$/.exec(rest) ?? /^[([](.*)[)\]]\s*[%‰]?$/.exec(rest);
    if (bracketed) {
      negative = true;
      rest = bracketed[1].trim();
    }
    let ten = shift;
    if (kind === 'percent') {
      const sign = /\s*([%‰])$/.exec(rest);
      if (sign) {
        rest = rest.slice(0, sign.index);
        if (sign[1] === '‰') ten -= 1;
      }
    }
    const bare = withoutUnit(rest, unit);
    if (bare === undefined) return wrong;
    // The sign of the currency may stand before the brackets: $ (1,234.50).
    const inside = negative ? null : /^\(([^()]*)\)$/.exec(bare.trim());
    if (inside) return exact(inside[1].trim(), true, ten);
    const signed = /^([-−–+]?)\s*(.*?)\s*([-−–]?)$/.exec(withoutMarks(bare))!;
    return exact(`${signed[1]}${signed[2]}${signed[3]}`, negative, ten);
  };
}
