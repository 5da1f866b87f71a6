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
