import { Faulty } from './fault';
import { tokensOf } from './lex';
import { quotedName } from './print';

/** A formula that calls the columns as they are called now; all else stays as it is written. */
export function withColumns(text: string, called: (name: string) => string | undefined): string {
  let tokens;
  try {
    tokens = tokensOf(text);
  } catch (error) {
    // What is no formula yet is left alone.
    if (error instanceof Faulty) return text;
    throw error;
  }
  return tokens.reduceRight((now, { kind, text: name, from, to }, at) => {
    // Behind a point stands a part of the report.
    const next = kind === 'name' && tokens[at - 1]?.text !== '.' ? called(name) : undefined;
    return next === undefined ? now : now.slice(0, from) + quotedName(next) + now.slice(to);
  }, text);
}
