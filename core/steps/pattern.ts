import type { Problem } from '../sheet/problem';

/** The regular expression that a text says, or the problem that it says none. */
export function regularExpression(text: string, flags: string): RegExp | Problem {
  try {
    return new RegExp(text, flags);
  } catch {
    return { kind: 'step', expected: 'a regular expression', came: `“${text}”`, remedy: 'Close every bracket, and put \\ before marks that stand for themselves.' };
  }
}
