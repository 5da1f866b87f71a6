import { castTypes, reportFields, type CastType, type Expression, type Over, type Span } from './ast';
import { Faulty, type FormulaFault } from './fault';
import { tokensOf, type Token } from './lex';
import { otherTypes, outside } from './outside';
import { binary, binding, quantifiers, single } from './strength';
import { own } from '../values/own';

/** Names without arguments in brackets that are no columns. */
const constants: Readonly<Record<string, (at: Span) => Expression>> = {
  true: (at) => ({ ...at, kind: 'boolean', value: true }),
  false: (at) => ({ ...at, kind: 'boolean', value: false }),
  null: (at) => ({ ...at, kind: 'null' }),
};

const deepest = 200;
/** Words and signs of one formula. */
const longest = 4000;
/** So many values joined by signs, one behind the other. */
const mostInRow = 1000;

/** The expression that a text says, or why it says none. */
export function parseFormula(text: string): Expression | FormulaFault {
  try {
    if (text.trim() === '')
      throw new Faulty('Write a formula: names of columns stand in double quotes, as "Value" * 2.', {
        from: 0,
        to: text.length,
      });
    return new Parser(tokensOf(text)).whole();
  } catch (error) {
    if (error instanceof Faulty) return error.fault;
    throw error;
  }
}

export const isFault = <Of extends object>(of: Of | FormulaFault): of is FormulaFault => 'says' in of;

class Parser {
  private at = 0;
  private depth = 0;
  constructor(private readonly tokens: readonly Token[]) {}

  whole(): Expression {
    if (this.tokens.length > longest)
      throw new Faulty('The formula is too long: split it over several columns.', {
        from: this.tokens[longest].from,
        to: this.tokens[longest].to,
      });
    const expression = this.expression(0);
    if (this.next.kind !== 'end') this.refuse();
    return expression;
  }

  private get next(): Token {
    return this.tokens[this.at];
  }
  private take(): Token {
    return this.tokens[this.next.kind === 'end' ? this.at : this.at++];
  }
  private is(...words: readonly string[]): boolean {
    return words.every((word, n) => {
      const token = this.tokens[this.at + n];
      return token !== undefined && (token.kind === 'word' || token.kind === 'sign') && token.text === word;
    });
  }
  private took(...words: readonly string[]): boolean {
    if (!this.is(...words)) return false;
    this.at += words.length;
    return true;
  }
  private expect(word: string, why: string): Token {
    if (!this.is(word)) this.refuse(`Expected ${word} ${why}`);
    return this.take();
  }
  private to(from: Span): Span {
    return { from: from.from, to: this.tokens[Math.max(0, this.at - 1)].to };
  }
  private refuse(expected?: string): never {
    const { kind, text, from, to } = this.next;
    const says =
      kind === 'end'
        ? 'the formula ends'
        : kind === 'name'
          ? `the name "${text}" stands`
          : kind === 'text'
            ? `the text '${text}' stands`
            : `${text} stands`;
    const elsewhere = kind === 'word' ? own(outside, text) : undefined;
    const remedy = elsewhere === undefined ? '' : ` ${elsewhere}`;
    throw new Faulty(
      expected
        ? `${expected}; ${says} here.${remedy}`
        : kind === 'end'
          ? `The formula is not finished: something is missing at its end.`
          : `${says.charAt(0).toUpperCase()}${says.slice(1)} where a sign, such as + or and, or the end was expected.${remedy}`,
      { from, to: Math.max(to, from + 1) },
    );
  }

  private expression(least: number): Expression {
    if (++this.depth > deepest)
      throw new Faulty('The formula has too many brackets in one another: split it over several columns.', this.next);
    let left = this.operand();
    for (let inRow = 1; ; inRow++) {
      const sign = this.next;
      const joined = this.continued(left, least);
      if (!joined) break;
      // Each is worked out within the next.
      if (inRow >= mostInRow)
        throw new Faulty('The formula joins more than 1,000 values in a row: split it over several columns.', sign);
      left = joined;
    }
    this.depth--;
    return left;
  }

  /** What goes on behind an operand, if it binds strongly enough. */
  private continued(left: Expression, least: number): Expression | undefined {
    const from = left;
    if (this.is('::') && binding.cast >= least) {
      this.take();
      const type = this.type();
      return { ...this.to(from), kind: 'cast', of: left, ...type };
    }
    const negated = this.is('not') && quantifiers.includes(this.tokens[this.at + 1]?.text ?? '');
    const word = negated ? this.tokens[this.at + 1] : this.next;
    if (word.kind === 'word' && quantifiers.includes(word.text)) {
      if (binding.within < least) return undefined;
      this.at += negated ? 2 : 1;
      const within = this.within(word.text, left);
      this.alone(binding.within);
      return negated ? { ...this.to(from), kind: 'call', name: 'not', args: [within] } : within;
    }
    if (this.is('is') || this.is('isnull') || this.is('notnull')) {
      if (binding.is < least) return undefined;
      return this.state(left);
    }
    const strength = this.next.kind === 'sign' || this.next.kind === 'word' ? own(binary, this.next.text) : undefined;
    if (strength === undefined || strength < least) return undefined;
    const { text: name } = this.take();
    const right = this.expression(strength + 1);
    if (single.has(strength)) this.alone(strength);
    return { ...this.to(from), kind: 'call', name, args: [left, right] };
  }

  /** Comparisons do not follow one another. */
  private alone(strength: number) {
    const { kind, text } = this.next;
    const follows =
      strength === binding.compared
        ? own(binary, text) === strength
        : quantifiers.includes(text) ||
          this.is('not', 'like') ||
          this.is('not', 'in') ||
          this.is('not', 'between') ||
          this.is('not', 'ilike');
    if ((kind === 'sign' || kind === 'word') && follows)
      throw new Faulty(
        'Comparisons do not follow one another: put and between them, or brackets around one.',
        this.next,
      );
  }

  private within(word: string, left: Expression): Expression {
    if (word === 'in') {
      this.expect('(', 'before the list');
      const list = this.list('in the list');
      return { ...this.to(left), kind: 'call', name: 'in', args: [left, ...list] };
    }
    if (word === 'between') {
      if (this.is('symmetric'))
        throw new Faulty('Put the lower value first: between symmetric is not there.', this.next);
      const low = this.expression(binding.within + 1);
      this.expect('and', 'between the two ends of between');
      const high = this.expression(binding.within + 1);
      return { ...this.to(left), kind: 'call', name: 'between', args: [left, low, high] };
    }
    const pattern = this.expression(binding.within + 1);
    const escape = this.took('escape') ? [this.expression(binding.within + 1)] : [];
    return { ...this.to(left), kind: 'call', name: word, args: [left, pattern, ...escape] };
  }

  private state(left: Expression): Expression {
    const made = (name: string, ...more: Expression[]): Expression => ({
      ...this.to(left),
      kind: 'call',
      name,
      args: [left, ...more],
    });
    if (this.took('isnull')) return made('is null');
    if (this.took('notnull')) return made('is not null');
    this.take();
    const not = this.took('not') ? 'not ' : '';
    if (this.took('distinct', 'from')) {
      const right = this.expression(binding.is + 1);
      return made(`is ${not}distinct from`, right);
    }
    for (const state of ['null', 'true', 'false', 'unknown'])
      if (this.took(state)) return made(`is ${not}${state === 'unknown' ? 'null' : state}`);
    return this.refuse('Expected null, true, false or distinct from behind is');
  }

  private operand(): Expression {
    const token = this.take();
    const span: Span = { from: token.from, to: token.to };
    switch (token.kind) {
      case 'number':
        return { ...span, kind: 'number', text: token.text };
      case 'text':
        return { ...span, kind: 'text', value: token.text };
      case 'name':
        return { ...span, kind: 'column', name: token.text };
      case 'sign':
        if (token.text === '(') {
          const inner = this.expression(0);
          if (this.is(','))
            throw new Faulty('There are no rows of values: compare each value, with and between.', this.next);
          this.expect(')', 'to close the bracket');
          return { ...inner, ...this.to(span) };
        }
        if (token.text === '-' || token.text === '+') {
          const of = this.expression(binding.sign);
          return { ...this.to(span), kind: 'call', name: token.text, args: [of] };
        }
        break;
      case 'word':
        return this.word(token);
    }
    this.at = token.kind === 'end' ? this.at : this.at - 1;
    return this.refuse(token.kind === 'end' ? undefined : 'Expected a value');
  }

  private word(token: Token): Expression {
    const span: Span = { from: token.from, to: token.to };
    const name = token.text;
    const constant = own(constants, name);
    if (constant && !this.is('(')) return constant(span);
    if (name === 'not') {
      const of = this.expression(binding.not);
      return { ...this.to(span), kind: 'call', name: 'not', args: [of] };
    }
    if (name === 'case') return this.choice(span);
    if (name === 'cast' && this.took('(')) {
      const of = this.expression(0);
      this.expect('as', 'before the type');
      const type = this.type();
      this.expect(')', 'to close cast');
      return { ...this.to(span), kind: 'cast', of, ...type };
    }
    if (name === 'report' && this.took('.')) return this.fieldOfReport(span);
    // date '2025-01-31'
    if (
      this.next.kind === 'text' &&
      ((castTypes as readonly string[]).includes(name) || own(otherTypes, name) !== undefined)
    ) {
      const { text, from, to } = this.take();
      return {
        ...this.to(span),
        kind: 'cast',
        of: { from, to, kind: 'text', value: text },
        into: (own(otherTypes, name) ?? name) as CastType,
      };
    }
    if (this.took('(')) return this.call(name, span);
    const elsewhere = own(outside, name);
    if (elsewhere !== undefined) throw new Faulty(`${name} is not there. ${elsewhere}`, span);
    throw new Faulty(
      `${token.written} is no value: a column is written in double quotes, as "${token.written}", a text in single ones, as '${token.written}'.`,
      span,
    );
  }

  private fieldOfReport(span: Span): Expression {
    const token = this.take();
    const field = reportFields.find((each) => each === token.text);
    if (!field || (token.kind !== 'name' && token.kind !== 'word'))
      throw new Faulty(
        `Of the report there are ${reportFields.map((each) => `report.${/ /.test(each) ? `"${each}"` : each}`).join(', ')}.`,
        { from: span.from, to: token.to },
      );
    return { ...this.to(span), kind: 'report', field: field };
  }

  private choice(span: Span): Expression {
    const of = this.is('when') ? undefined : this.expression(0);
    const whens: [Expression, Expression][] = [];
    while (this.took('when')) {
      const when = this.expression(0);
      this.expect('then', 'behind the condition');
      whens.push([when, this.expression(0)]);
    }
    if (whens.length === 0) this.refuse('Expected when behind case');
    const otherwise = this.took('else') ? this.expression(0) : undefined;
    this.expect('end', 'to close case');
    return { ...this.to(span), kind: 'case', whens, ...(of ? { of } : {}), ...(otherwise ? { otherwise } : {}) };
  }

  /** Values with commas between, up to the closing bracket. */
  private list(where: string): Expression[] {
    if (this.is('select')) this.refuse('Expected values');
    const list = [this.expression(0)];
    while (this.took(',')) list.push(this.expression(0));
    this.expect(')', `to close the bracket ${where}`);
    return list;
  }

  private call(name: string, span: Span): Expression {
    const special = this.special(name, span);
    if (special) return special;
    if (this.is('distinct') || this.is('all'))
      throw new Faulty('Different values are counted by the step Summarise.', this.next);
    if (name === 'count' && this.took('*')) {
      this.expect(')', 'to close count');
      return this.over({ ...this.to(span), kind: 'call', name: 'count', args: [] });
    }
    const args = this.took(')') ? [] : this.list(`of ${name}`);
    return this.over({ ...this.to(span), kind: 'call', name, args });
  }

  /** Functions with words between their arguments. */
  private special(name: string, span: Span): Expression | undefined {
    const made = (called: string, args: readonly Expression[]): Expression => {
      this.expect(')', `to close ${name}`);
      return { ...this.to(span), kind: 'call', name: called, args };
    };
    switch (name) {
      case 'extract': {
        const field = this.take();
        if (field.kind !== 'word' && field.kind !== 'text')
          throw new Faulty('Say what is extracted: extract(year from "Day").', field);
        this.expect('from', 'behind what is extracted');
        return made('extract', [
          { from: field.from, to: field.to, kind: 'text', value: field.text },
          this.expression(0),
        ]);
      }
      case 'position': {
        const sought = this.expression(binding.within + 1);
        this.expect('in', 'between the two texts: position(\'a\' in "Text")');
        return made('position', [sought, this.expression(0)]);
      }
      case 'trim': {
        const side = (['both', 'leading', 'trailing'] as const).find((each) => this.took(each)) ?? 'both';
        const called = { both: 'btrim', leading: 'ltrim', trailing: 'rtrim' }[side];
        if (this.took('from')) return made(called, [this.expression(0)]);
        const first = this.expression(0);
        if (this.took('from')) return made(called, [this.expression(0), first]);
        return made(called, this.took(',') ? [first, this.expression(0)] : [first]);
      }
      case 'substring': {
        const of = this.expression(0);
        if (this.is('similar')) throw new Faulty('Use regexp_substr for patterns.', this.next);
        if (!this.is('from') && !this.is('for'))
          return made('substring', [
            of,
            ...(this.took(',') ? [this.expression(0), ...(this.took(',') ? [this.expression(0)] : [])] : []),
          ]);
        const start = this.took('from')
          ? this.expression(0)
          : ({ ...this.to(span), kind: 'number', text: '1' } as const);
        return made('substring', [of, start, ...(this.took('for') ? [this.expression(0)] : [])]);
      }
      default:
        return undefined;
    }
  }

  private over(call: Extract<Expression, { kind: 'call' }>): Expression {
    if (this.is('filter') || this.is('within'))
      throw new Faulty(`${this.next.text} is not there: use case inside the function.`, this.next);
    if (!this.took('over')) return call;
    this.expect('(', 'behind over');
    const partitionBy: Expression[] = [];
    if (this.took('partition')) {
      this.expect('by', 'behind partition');
      do partitionBy.push(this.expression(0));
      while (this.took(','));
    }
    let ordered = false;
    if (this.took('order')) {
      this.expect('by', 'behind order');
      if (!this.took('report', '.', 'row'))
        throw new Faulty(
          'Rows stay in the order of the report: write order by report.row, and sort them by a step above if they should be in another.',
          this.next,
        );
      this.took('asc');
      ordered = true;
    }
    if (this.is('rows') || this.is('range') || this.is('groups'))
      throw new Faulty(
        'There are two kinds of windows: with order by report.row up to the own row, without it all rows.',
        this.next,
      );
    this.expect(')', 'to close over');
    const over: Over = { partitionBy, ordered };
    return { ...call, ...this.to(call), over };
  }

  private type(): { into: CastType; digits?: readonly [number, number] } {
    const token = this.take();
    if (token.kind === 'word' && token.text === 'double') this.took('precision');
    const type =
      castTypes.find((each) => each === token.text) ??
      (token.kind === 'word' ? (own(otherTypes, token.text) as CastType | undefined) : undefined);
    if (!type) throw new Faulty(`There is no type ${token.text || 'here'}: there are ${castTypes.join(', ')}.`, token);
    if (type === 'text' && this.is('(')) throw new Faulty('Texts have any length: use left to cut one.', this.next);
    if (type !== 'numeric' || !this.took('(')) return { into: type };
    const digits = [this.digits()];
    if (this.took(',')) digits.push(this.digits());
    this.expect(')', 'to close the digits of numeric');
    return { into: 'numeric', digits: [digits[0], digits[1] ?? 0] };
  }

  private digits(): number {
    const token = this.take();
    const digits = Number(token.text);
    if (token.kind !== 'number' || !Number.isInteger(digits) || digits > 100)
      throw new Faulty(
        'Write how many digits there are, and how many of them behind the point: numeric(12, 2).',
        token,
      );
    return digits;
  }
}
