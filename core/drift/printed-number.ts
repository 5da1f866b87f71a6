/** A printed number as far as it can be told without knowing how its report prints numbers. */
export interface PrintedNumber {
  /** Without its sign. Of a lone mark before three digits it is taken for a mark between groups. */
  readonly size: number;
  /** Digits after the decimal mark. */
  readonly decimals: number;
  /** The decimal mark, where the print leaves no doubt which it is. */
  readonly mark?: '.' | ',';
  /** Nothing but digits and a point stand there. */
  readonly plain?: true;
}

const shape =
  /^[^\p{L}\d]{0,3}(?:\p{Sc}|\p{L}{1,4}\.?\s)?\s*[-−–+(]?\s*(\d(?:[\d.,'’ \u00a0\u202f\u2009]*\d)?)\s*[-−–)]?\s*(?:[%‰]|\p{Sc}|\p{L}{1,6}[²³]?\.?)?[*†‡§¹²³⁴-⁹)]*$/u;

const plain = /^\d+(?:\.(\d{1,2}))?$/;

/** The number that a text prints, with a unit or currency beside it or none; undefined where it prints no number. */
export function printedNumber(text: string): PrintedNumber | undefined {
  const simple = plain.exec(text);
  if (simple)
    return simple[1] === undefined
      ? { size: Number(text), decimals: 0, plain: true }
      : { size: Number(text), decimals: simple[1].length, mark: '.', plain: true };
  // What begins with a letter and is long is no number with a unit before it.
  if (/^\p{L}{5}/u.test(text)) return undefined;
  const digits = shape.exec(text.trim())?.[1];
  if (digits === undefined) return undefined;
  const marks = digits.replace(/[^.,]/g, '');
  const last = marks.at(-1) as '.' | ',' | undefined;
  if (last === undefined) return { size: Number(digits.replace(/\D/g, '')), decimals: 0 };
  const at = digits.lastIndexOf(last);
  const behind = digits.length - at - 1;
  const mixed = marks.includes('.') && marks.includes(',');
  const once = marks.indexOf(last) === marks.length - 1;
  // 1,234,567 and 1,234: groups; 1,234.5, 1,23 and 0,123: a fraction.
  const isFraction = once && (mixed || behind !== 3 || /^0$/.test(digits.slice(0, at)));
  if (!isFraction) {
    const sure = mixed || !once;
    return {
      size: Number(digits.replace(/\D/g, '')),
      decimals: 0,
      ...(sure ? { mark: last === '.' ? (',' as const) : ('.' as const) } : {}),
    };
  }
  return {
    size: Number(`${digits.slice(0, at).replace(/\D/g, '')}.${digits.slice(at + 1)}`),
    decimals: behind,
    mark: last,
  };
}
