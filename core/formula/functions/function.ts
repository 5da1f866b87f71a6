import type { FormulaType, Value } from '../value';

/** `integer` takes a number that is whole, `any` whatever there is. */
export type Argument = FormulaType | 'integer' | 'any';

export const groups = ['numbers', 'texts', 'patterns', 'dates', 'formats'] as const;

/** One function, or one way to call it: what it takes, what it gives, and what it says of itself. */
export interface FormulaFunction {
  readonly name: string;
  readonly group: (typeof groups)[number];
  readonly args: readonly Argument[];
  /** How many of the arguments, from the last on, may be left out. */
  readonly optional?: number;
  /** Takes any number more of these. */
  readonly rest?: Argument;
  /** `integer`: numbers that are whole. */
  readonly result: FormulaType | 'integer';
  /** Takes blanks too; most functions are blank where an argument is. */
  readonly takesBlanks?: boolean;
  /** What it does, in a sentence. */
  readonly says: string;
  /** A formula, and what it gives: run by the tests. */
  readonly example: readonly [formula: string, result: string];
  /** The arguments as they are called in the docs; left out: by their types. */
  readonly called?: string;
  /** Made anew for each place at which it is used: it keeps there what it has compiled. */
  readonly prepare?: () => (...args: never[]) => Value;
  readonly run: (...args: never[]) => Value;
}

type Rest = Omit<FormulaFunction, 'group' | 'run' | 'result' | 'args' | 'name'>;

/** Declares functions of one group: name, arguments, result, what it says, an example, what it does. */
export const declaring =
  (group: FormulaFunction['group']) =>
  (
    name: string,
    args: readonly Argument[],
    result: FormulaFunction['result'],
    about: Rest,
    run: (...args: never[]) => Value,
  ): FormulaFunction => ({ name, group, args, result, ...about, run });
