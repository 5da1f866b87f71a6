import { InvalidArgumentError, Option } from 'commander';
import { join, resolve } from 'node:path';

/** Where and how the server runs; flags first, then the environment, then these defaults. */
export interface Config {
  /** Data folder: database, cache of read reports, dropped files. */
  readonly data: string;
  readonly host: string;
  readonly port: number;
  /** Folders below which reports may lie. */
  readonly roots: readonly string[];
  /** Largest file that may be dropped, in megabytes. */
  readonly uploadLimit: number;
  readonly logLevel: string;
  /** What is read off reports is kept on disk up to so many megabytes. */
  readonly cacheLimit?: number;
  /** How long a page or step may show no progress before it is given up, in seconds. */
  readonly patience?: number;
  /** Where published datasets can be queried with SQL; left out: nowhere. */
  readonly sql?: SqlConfig | undefined;
  /** A data folder without a whole database is begun anew, and what is there moved aside. */
  readonly beginAnew?: boolean | undefined;
  /** Who saves versions: the name under which the program is run. */
  readonly who?: string;
}

/** Where and how the published datasets can be queried with SQL. */
export interface SqlConfig {
  readonly host: string;
  readonly port: number;
  /** Files with a certificate and its key (PEM). */
  readonly tls?: { readonly cert: string; readonly key: string } | undefined;
  /** How long a statement may take, in seconds. */
  readonly limit: number;
}

/** Where the embedded database lies in a data folder. */
export const databaseIn = (data: string): string => join(data, 'database');
/** Where the key of a data folder lies; only its owner may read it. */
export const keyIn = (data: string): string => join(data, 'key');
/** Where the content read off reports is kept in a data folder. */
export const cacheIn = (data: string): string => join(data, 'cache');
/** Where the tables lie that other programs query: a copy of what is published, made anew where it is missing. */
export const sqlIn = (data: string): string => join(data, 'sql');
/** Where files that were dropped lie, a folder for each pipeline. */
export const droppedIn = (data: string): string => join(data, 'dropped');

/** The name under which the program is run, as far as it is told. */
export const userName = (): string => process.env.USER ?? process.env.USERNAME ?? '';

const between =
  (least: number, most: number) =>
  (text: string): number => {
    const number = Number(text);
    if (!/^\d+$/.test(text) || number < least || number > most)
      throw new InvalidArgumentError(`Expected a whole number from ${least} to ${most}.`);
    return number;
  };

const list = (value: string, before: string[] | undefined) => [...(before ?? []), ...value.split(':')].filter(Boolean);

export const dataOption = () => new Option('--data <folder>', 'data folder').env('ABLE_SIEVE_DATA');

export const serverOptions = (): Option[] => [
  dataOption().default('./able-sieve-data'),
  new Option(
    '--begin-anew',
    'where the database of the data folder is missing or broken: move aside what is there, and begin with an empty one',
  ),
  new Option('--port <number>', 'port to listen on; 0: any free one')
    .env('ABLE_SIEVE_PORT')
    .default(4870)
    .argParser(between(0, 65_535)),
  new Option('--root <folder>', 'folder below which reports may lie; may be given again')
    .env('ABLE_SIEVE_ROOTS')
    .argParser(list),
  new Option('--upload-limit <megabytes>', 'largest file that may be dropped')
    .env('ABLE_SIEVE_UPLOAD_LIMIT')
    .default(200)
    .argParser(between(1, 100_000)),
  new Option(
    '--cache-limit <megabytes>',
    'how much of what is read off reports is kept on disk; what is not is read again when it is asked for',
  )
    .env('ABLE_SIEVE_CACHE_LIMIT')
    .default(4000)
    .argParser(between(1, 10_000_000)),
  new Option('--patience <seconds>', 'how long a page or step may show no progress before it is given up')
    .env('ABLE_SIEVE_PATIENCE')
    .default(60)
    .argParser(between(1, 86_400)),
  new Option(
    '--sql-port <number>',
    'port on which published datasets can be queried with SQL, by the PostgreSQL protocol; 0: any free one',
  )
    .env('ABLE_SIEVE_SQL_PORT')
    .argParser(between(0, 65_535)),
  new Option(
    '--sql-host <address>',
    'address to listen on for SQL; others than this machine reach it only with a certificate',
  )
    .env('ABLE_SIEVE_SQL_HOST')
    .default('127.0.0.1'),
  new Option('--sql-cert <file>', 'certificate for SQL (PEM)').env('ABLE_SIEVE_SQL_CERT'),
  new Option('--sql-key <file>', 'its key (PEM)').env('ABLE_SIEVE_SQL_KEY'),
  new Option('--sql-limit <seconds>', 'how long an SQL statement may take')
    .env('ABLE_SIEVE_SQL_LIMIT')
    .default(30)
    .argParser(between(1, 86_400)),
  new Option('--log-level <level>', 'how much is logged')
    .env('ABLE_SIEVE_LOG')
    .choices(['silent', 'error', 'warn', 'info', 'debug'])
    .default('info'),
];

interface SqlGiven {
  sqlPort?: number;
  sqlHost: string;
  sqlCert?: string;
  sqlKey?: string;
  sqlLimit: number;
}

/** @throws Error where what is given does not go together */
function sqlFrom({ sqlPort, sqlHost, sqlCert, sqlKey, sqlLimit }: SqlGiven): SqlConfig | undefined {
  if (sqlPort === undefined) return undefined;
  if ((sqlCert === undefined) !== (sqlKey === undefined))
    throw new Error('A certificate needs its key: give both --sql-cert and --sql-key.');
  if (!/^(?:127\.\d+\.\d+\.\d+|::1|localhost)$/.test(sqlHost) && sqlCert === undefined)
    throw new Error(
      'Tokens would go over the network for everybody to read: give a certificate with --sql-cert and --sql-key, or leave --sql-host out.',
    );
  return {
    host: sqlHost,
    port: sqlPort,
    limit: sqlLimit,
    ...(sqlCert !== undefined && sqlKey !== undefined ? { tls: { cert: resolve(sqlCert), key: resolve(sqlKey) } } : {}),
  };
}

/** Settings as given on the command line or in the environment. The server listens on the loopback address only. */
export const configFrom = (
  given: {
    data: string;
    port: number;
    root?: string[];
    uploadLimit: number;
    logLevel: string;
    patience: number;
    cacheLimit?: number;
    beginAnew?: boolean;
  } & SqlGiven,
): Config => ({
  data: resolve(given.data),
  host: '127.0.0.1',
  port: given.port,
  roots: (given.root ?? [process.env.HOME ?? '/']).map((root) => resolve(root)),
  uploadLimit: given.uploadLimit,
  logLevel: given.logLevel,
  patience: given.patience,
  ...(given.cacheLimit === undefined ? {} : { cacheLimit: given.cacheLimit }),
  beginAnew: given.beginAnew ?? false,
  sql: sqlFrom(given),
  who: userName(),
});
