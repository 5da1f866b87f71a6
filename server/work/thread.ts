// What worker threads of the pool do: every task and every look, by its name.
import { readlinkSync } from 'node:fs';
import { setPriority } from 'node:os';

/** Given to threads that let others go first. */
export const behind = 'behind';

// The parser leaves promises of damaged parts that nobody waits for; what it could not read is told by its answers.
process.on('unhandledRejection', () => undefined);

if (process.argv.includes(behind)) stepBehind();

/** The server, the database and the looks go first, where the machine knows such an order. */
function stepBehind(): void {
  try {
    // Only Linux tells a thread its number, and takes one for a process.
    setPriority(Number(/\d+$/.exec(readlinkSync('/proc/thread-self'))![0]), 10);
  } catch {
    // It works as the others do.
  }
}

export * from './tasks/all';
export * from './looks/all';
