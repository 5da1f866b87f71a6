import { setFlagsFromString } from 'node:v8';
import engine from '../../bin/engine.json';

/**
 * Flags of the program itself and of the processes it starts: its threads use all cores already, so that the engine's own helpers
 * would only get in their way. The shebang of bin/able-sieve.mjs says the same, as a shebang can read no file.
 */
export const programFlags: readonly string[] = engine.program;

/**
 * Flags of every thread. Those of the process are no thread's: one that is asked for with them is not started at all. A thread that
 * is ended while it requires a module, instead of importing it, takes the whole process with it.
 */
export const threadFlags: readonly string[] = engine.threads.filter((flag) =>
  process.allowedNodeEnvironmentFlags.has(flag),
);

// The measures below hold for all threads of the process. They are set here and not as flags of the program, as an engine that
// does not know one any more goes on without it.

// A function is compiled again, better and slowly, once it has worked this much (in about bytes of its code). By the engine's own
// measure, a fifteenth of this, each thread does so with most of the reader while it reads its first reports: they took 1.4 times
// as long; a report of 300 pages takes 1.05 times as long by this one.
setFlagsFromString('--interrupt-budget=1000000');
// The same of the database's code, which is compiled quickly first: half of it reaches the engine's own measure while the database
// starts, to no use.
setFlagsFromString('--wasm-tiering-budget=100000000');
