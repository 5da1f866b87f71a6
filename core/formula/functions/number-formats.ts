// Numbers as formats write and read them.
import { Mishap } from '../mishap';
import { absolute, numericText, parsed, rounded, type Numeric } from '../numeric';

/** A number's format, taken apart (PostgreSQL, "Template Patterns for Numeric Formatting"). */
interface NumberFormat {
  /** Signs in their order: digits 9 and 0, marks between thousands, the point, signs of the number, other texts. */
  readonly parts: readonly {
    readonly is: '9' | '0' | 'group' | 'point' | 'S' | 'MI' | 'PL' | 'SG' | 'PR' | 'text';
    readonly text: string;
  }[];
  readonly plain: boolean;
  readonly before: number;
  readonly behind: number;
  /** So many digits behind the point are always written: up to the last 0 there. */
  readonly least: number;
}

const isDigit = ({ is }: NumberFormat['parts'][number]): boolean => is === '9' || is === '0';
const isSign = ({ is }: NumberFormat['parts'][number]): boolean =>
  is === 'S' || is === 'MI' || is === 'PL' || is === 'SG' || is === 'PR';

function numberFormat(format: string): NumberFormat {
  const parts: { is: NumberFormat['parts'][number]['is']; text: string }[] = [];
  let [plain, before, behind, pointed] = [false, 0, 0, false];
  for (let at = 0; at < format.length;) {
    const rest = format.slice(at);
    const two = rest.slice(0, 2).toUpperCase();
    const take = (is: (typeof parts)[number]['is'], text: string) => {
      parts.push({ is, text });
      at += text.length;
    };
    if (two === 'FM') {
      if (parts.length > 0) throw new Mishap(`the format “${format}”: FM stands first`);
      [plain, at] = [true, at + 2];
    } else if (two === 'MI' || two === 'PL' || two === 'SG' || two === 'PR') take(two, rest.slice(0, 2));
    else if (/^(?:EEEE|RN|TH|V|L|C|B)/i.test(rest))
      throw new Mishap(
        `“${/^(?:EEEE|RN|TH|V|L|C|B)/i.exec(rest)![0]}” in the format “${format}”: put texts into double quotes`,
      );
    else if (rest[0] === '9' || rest[0] === '0') {
      if (pointed) behind++;
      else before++;
      take(rest[0], rest[0]);
    } else if (/^[,G]/i.test(rest)) take('group', rest[0]);
    else if (/^[.D]/i.test(rest)) {
      if (pointed) throw new Mishap(`two points in the format “${format}”`);
      pointed = true;
      take('point', rest[0]);
    } else if (/^S/i.test(rest)) take('S', rest[0]);
    else if (rest[0] === '"') {
      const end = rest.indexOf('"', 1);
      parts.push({ is: 'text', text: rest.slice(1, end < 0 ? undefined : end) });
      at += end < 0 ? rest.length : end + 1;
    } else take('text', rest[0]);
  }
  if (before + behind === 0) throw new Mishap(`no digits in the format “${format}”: 9 or 0 stands for one`);
  refuseOddities(parts, format);
  const behindPoint = parts.filter(isDigit).slice(before);
  return { parts, plain, before, behind, least: behindPoint.findLastIndex(({ is }) => is === '0') + 1 };
}

/** Formats that other programs fill in by rules that nobody would guess are refused, not imitated. */
function refuseOddities(parts: NumberFormat['parts'], format: string): void {
  const own = parts.filter(({ is }) => is !== 'text');
  const isDigitAt = (at: number) => own[at] !== undefined && isDigit(own[at]);
  const refuse = (because: string) => new Mishap(`the format “${format}”: ${because}`);
  const point = own.findIndex(({ is }) => is === 'point');
  if (point >= 0 && !(isDigitAt(point + 1) && own.slice(0, point).some(isDigit)))
    throw refuse('digits stand on both sides of its point');
  const signs = own.filter(isSign);
  if (signs.length > 1 || (signs.length === 1 && !(isSign(own.at(-1)!) || (isSign(own[0]) && own[0].is !== 'PR'))))
    throw refuse('one sign stands before its digits or behind them');
  if (own.some(({ is }, i) => is === 'group' && !(isDigitAt(i - 1) && isDigitAt(i + 1) && (point < 0 || i < point))))
    throw refuse('marks of thousands stand between digits before its point');
}

function keptFormat(): (format: string) => NumberFormat {
  let last: { format: string; made: NumberFormat } | undefined;
  return (format) => {
    if (last?.format !== format) last = { format, made: numberFormat(format) };
    return last.made;
  };
}

/** Writes numbers by formats, the last of which it keeps taken apart. */
export function numberWriter() {
  const formatOf = keptFormat();
  return (value: Numeric, text: string): string => {
    const { parts, plain, before, behind, least } = formatOf(text);
    const own = rounded(value, behind);
    const negative = own.n < 0;
    const [left, right = ''] = numericText(absolute(own)).split('.');
    const tooLong = left !== '0' && left.length > before;
    const digits = tooLong ? '#'.repeat(before) : (left === '0' ? '' : left).padStart(before, ' ');
    const fraction = tooLong ? '#'.repeat(behind) : right.padEnd(behind, '0');
    // From the first 0 on, zeros are written.
    const firstZero = parts.filter(isDigit).findIndex(({ is }) => is === '0');
    const zerosFrom = firstZero < 0 ? Infinity : firstZero;
    const hasOwnSign = parts.some(({ is }) => is === 'S' || is === 'MI' || is === 'SG' || is === 'PR');
    const isPr = parts.some(({ is }) => is === 'PR');
    // A zero before the point is written where nothing else would be.
    const lastBefore = parts.findLastIndex(
      (part, i) => isDigit(part) && !parts.slice(0, i).some((each) => each.is === 'point'),
    );
    let [at, begun, pointed, end] = [0, false, false, 0];
    /** Where the digits behind the point stand. */
    const behindAt: number[] = [];
    const out: string[] = [];
    let signAt = -1;
    const begin = () => {
      if (!begun) signAt = out.length;
      begun = true;
    };
    parts.forEach(({ is, text: mark }, i) => {
      switch (is) {
        case '9':
        case '0': {
          if (pointed) {
            end = out.push(fraction[behindAt.length]);
            behindAt.push(end - 1);
            return;
          }
          const digit = digits[at];
          const isZero = digit === ' ' && (at >= zerosFrom || (i === lastBefore && behind === 0 && left === '0'));
          if (digit !== ' ' || isZero) begin();
          end = out.push(digit !== ' ' ? digit : isZero ? '0' : plain ? '' : ' ');
          at++;
          return;
        }
        case 'group':
          out.push(begun ? ',' : plain ? '' : ' ');
          return;
        case 'point':
          begin();
          // Of nothing at all a zero is left, where no digit behind the point is asked for.
          if (plain && signAt === out.length && own.n === 0 && least === 0) out.push('0');
          pointed = true;
          out.push('.');
          return;
        case 'text':
          out.push(mark);
          return;
        case 'MI':
          out.push(negative ? '-' : plain ? '' : ' ');
          return;
        case 'PL':
          out.push(negative ? (plain ? '' : ' ') : '+');
          return;
        case 'SG':
          out.push(negative ? '-' : '+');
          return;
        case 'S':
        case 'PR':
          return;
      }
    });
    if (plain && pointed) {
      // Digits behind the point that nothing asks for go, up to the last 0 of the format.
      for (let last = behind; last > least && out[behindAt[last - 1]] === '0'; last--) out[behindAt[last - 1]] = '';
    }
    if (signAt < 0) signAt = out.length;
    // Signs of their own stand right beside the digits, whatever texts there are.
    const sign = parts.findIndex(({ is }) => is === 'S');
    if (sign >= 0) out.splice(sign < parts.findIndex(isDigit) ? signAt : end, 0, negative ? '-' : '+');
    else if (isPr) {
      out.splice(end, 0, negative ? '>' : plain ? '' : ' ');
      out.splice(signAt, 0, negative ? '<' : plain ? '' : ' ');
    } else if (!hasOwnSign) out.splice(signAt, 0, negative ? '-' : plain ? '' : ' ');
    return out.join('');
  };
}

/** A number as it is written by a format: marks between thousands go, the sign may stand at either end. @throws Mishap */
export function numberReader() {
  const formatOf = keptFormat();
  return (text: string, format: string): Numeric => {
    const { parts, before, behind } = formatOf(format);
    const refuse = () => new Mishap(`“${text}” does not fit the format “${format}”`);
    let own = text.trim();
    let negative = false;
    if (parts.some(({ is }) => is === 'PR') && /^<.*>$/.test(own)) [negative, own] = [true, own.slice(1, -1)];
    for (const { is, text: mark } of parts) if (is === 'text' && mark.trim() !== '') own = own.replace(mark, '');
    own = own.trim();
    const sign =
      /^[+-]/.exec(own) ??
      (parts.some(({ is }) => is === 'S' || is === 'MI' || is === 'PL' || is === 'SG') ? /[+-]$/.exec(own) : null);
    if (sign)
      [negative, own] = [negative || sign[0] === '-', (sign.index === 0 ? own.slice(1) : own.slice(0, -1)).trim()];
    if (parts.some(({ is }) => is === 'group')) own = own.replaceAll(',', '');
    const match = /^(\d*)(?:\.(\d*))?$/.exec(own);
    if (!match || match[1] + (match[2] ?? '') === '' || match[1].length > before || (match[2] ?? '').length > behind)
      throw refuse();
    const value = parsed(own)!;
    return negative ? { n: value.n === 0 ? 0 : -value.n, s: value.s } : value;
  };
}
