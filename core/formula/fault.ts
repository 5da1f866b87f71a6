import type { Span } from './ast';

/** Why a text is no formula, where, and what to do instead. */
export interface FormulaFault extends Span {
  readonly says: string;
}

/** Thrown inside this folder only: what leaves it is a fault. */
export class Faulty extends Error {
  constructor(
    says: string,
    readonly at: Span,
  ) {
    super(says);
  }
  get fault(): FormulaFault {
    return { says: this.message, from: this.at.from, to: this.at.to };
  }
}
