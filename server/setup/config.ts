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
  /** How long a page or step may show no progress before it is given up, in seconds. */
  readonly patience?: number;
  /** Who saves versions: the name under which the program is run. */
  readonly who?: string;
}

/** Where the content read off reports is kept in a data folder. */
export const cacheIn = (data: string): string => join(data, 'cache');
/** Where files that were dropped lie, a folder for each pipeline. */
export const droppedIn = (data: string): string => join(data, 'dropped');

/** The name under which the program is run, as far as it is told. */
export const userName = (): string => process.env.USER ?? process.env.USERNAME ?? '';

const between = (least: number, most: number) => (text: string): number => {
  const number = Number(text);
  if (!/^\d+$/.test(text) || number < least || number > most) throw new InvalidArgumentError(`Expected a whole number from ${least} to ${most}.`);
  return number;
};

const list = (value: string, before: string[] | undefined) => [...(before ?? []), ...value.split(':')].filter(Boolean);

export const dataOption = () => new Option('--data <folder>', 'data folder').env('ABLE_SIEVE_DATA');

export const serverOptions = (): Option[] => [
  dataOption().default('./able-sieve-data'),
  new Option('--port <number>', 'port to listen on; 0: any free one').env('ABLE_SIEVE_PORT').default(4870).argParser(between(0, 65_535)),
  new Option('--root <folder>', 'folder below which reports may lie; may be given again').env('ABLE_SIEVE_ROOTS').argParser(list),
  new Option('--upload-limit <megabytes>', 'largest file that may be dropped').env('ABLE_SIEVE_UPLOAD_LIMIT').default(200).argParser(between(1, 100_000)),
  new Option('--patience <seconds>', 'how long a page or step may show no progress before it is given up').env('ABLE_SIEVE_PATIENCE').default(60).argParser(between(1, 86_400)),
  new Option('--log-level <level>', 'how much is logged').env('ABLE_SIEVE_LOG').choices(['silent', 'error', 'warn', 'info', 'debug']).default('info'),
];

/** Settings as given on the command line or in the environment. The server listens on the loopback address only. */
export const configFrom = (given: { data: string; port: number; root?: string[]; uploadLimit: number; logLevel: string; patience: number }): Config => ({
  data: resolve(given.data),
  host: '127.0.0.1',
  port: given.port,
  roots: (given.root ?? [process.env.HOME ?? '/']).map((root) => resolve(root)),
  uploadLimit: given.uploadLimit,
  logLevel: given.logLevel,
  patience: given.patience,
  who: userName(),
});
