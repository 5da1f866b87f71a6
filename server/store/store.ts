/** A value as it goes into a statement. */
export type Param = string | number | boolean | null;
export type Row = Record<string, unknown>;

/** Never more rows in one statement: others get their turn between two of them. */
export const batchRows = 10_000;

/** A database error, with the SQLSTATE where there is one. */
export class StoreError extends Error {
  constructor(
    message: string,
    readonly code?: string,
  ) {
    super(message);
    this.name = 'StoreError';
  }
}

/** The database has ended in the middle of something; another takes its place. */
export class DatabaseEnded extends StoreError {
  override name = 'DatabaseEnded';
}

export interface CopyDialect {
  /** One character. */
  readonly separator?: string | undefined;
  /** Quotes every value that is there. */
  readonly quoteAll?: boolean | undefined;
  /** In COPY's own text form instead: a line a row, tabs between, and whatever could be taken for an end escaped. */
  readonly escaped?: boolean | undefined;
}

/** Statements of one session, in order. */
export interface Session {
  /** Rows of one statement; numeric, bigint and calendar values come as text. */
  query<T = Row>(sql: string, params?: readonly Param[]): Promise<T[]>;
  /** Runs one statement. @returns how many rows it touched */
  execute(sql: string, params?: readonly Param[]): Promise<number>;
  /** Runs several statements without parameters. */
  script(sql: string): Promise<void>;
  /** Loads CSV (no header, unquoted empty is null) into `table (columns)`. */
  copyIn(table: string, columns: readonly string[], csv: string): Promise<void>;
  /** The rows of a query as CSV without a header; nulls are empty and never quoted. */
  copyOut(query: string, dialect?: CopyDialect): Promise<Uint8Array>;
}

/**
 * The database behind the server. One session serves everybody, statement by statement in the order asked for, so
 * nobody may hold it long.
 */
export interface Store extends Session {
  /** All or nothing; no other statement comes between. */
  transaction<T>(work: (session: Session) => Promise<T>): Promise<T>;
  /** The same for long work in many statements, such as loading, clearing and exports: it lets those go first whom somebody waits for. */
  readonly patient: Store;
  listen(channel: string, heard: (payload: string) => void): Promise<() => Promise<void>>;
  notify(channel: string, payload: string): Promise<void>;
  close(): Promise<void>;
}

/** A text within a script, where no parameters are taken. */
export const literal = (text: string) => `'${text.replaceAll("'", "''")}'`;

/** Double-quoted, for names that we made ourselves. */
export const quoted = (name: string) => `"${name.replaceAll('"', '""')}"`;
