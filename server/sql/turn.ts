import type { Database } from './database';

/** What a session is made of in the database: restored whenever another had it between. */
export interface Own {
  /** By name. */
  settings: ReadonlyMap<string, string>;
  /** The messages that prepared statements, by name. */
  readonly prepared: Map<string, Buffer>;
}

interface Waiting {
  readonly own: Own;
  readonly begin: () => void;
}

/** The database serves one session at a time, in the order asked for; one in a transaction keeps its turn until that ends. */
export class Turn {
  private readonly waiting: Waiting[] = [];
  private holder: Own | undefined;
  /** Whose settings the database has, and in which of its threads. */
  private last: { readonly own: Own; readonly generation: number } | undefined;

  constructor(private readonly database: Database) {}

  /** @returns true when what the session had set must be set again */
  take(own: Own): Promise<boolean> {
    return new Promise((resolve) => {
      this.waiting.push({
        own,
        begin: () => resolve(this.last?.own !== own || this.last.generation !== this.database.generation),
      });
      this.next();
    });
  }

  /** The session has the database as it left it. */
  settled(own: Own): void {
    this.last = { own, generation: this.database.generation };
  }

  /** What the session had set is to be set again at its next turn. */
  unsettle(own: Own): void {
    if (this.last?.own === own) this.last = undefined;
  }

  holds(own: Own): boolean {
    return this.holder === own;
  }

  /** Gives the turn up, or the place in the line. */
  leave(own: Own): void {
    const at = this.waiting.findIndex((each) => each.own === own);
    if (at >= 0) this.waiting.splice(at, 1);
    if (this.holder === own) this.holder = undefined;
    this.next();
  }

  private next(): void {
    if (this.holder) return;
    const next = this.waiting.shift();
    if (!next) return;
    this.holder = next.own;
    next.begin();
  }
}
