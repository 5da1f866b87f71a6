import { rmSync } from 'node:fs';
import { mkdir, open, readFile, rename, rm } from 'node:fs/promises';
import { join } from 'node:path';

/** Another process works in the data folder; two would corrupt it. */
export class FolderInUse extends Error {
  constructor(folder: string, pid: number) {
    super(
      `The data folder ${folder} is in use by another Able Sieve (process ${pid}). Stop that one, or choose another folder with --data.`,
    );
    this.name = 'FolderInUse';
  }
}

const startOf = async (pid: number): Promise<string | undefined> => {
  // Where the system tells when a process started, a pid given out again to another program is not taken for the holder.
  const stat = await readFile(`/proc/${pid}/stat`, 'utf8').catch(() => undefined);
  return stat?.slice(stat.lastIndexOf(')') + 2).split(' ')[19];
};

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/**
 * Takes a data folder for this process: a file created exclusively, with the holder's pid and start. A lock left by a
 * process that was killed is taken over.
 * @returns gives the folder free again
 * @throws FolderInUse
 */
export async function lockFolder(folder: string): Promise<() => Promise<void>> {
  await mkdir(folder, { recursive: true });
  const file = join(folder, 'lock');
  for (let attempt = 0; ; attempt++) {
    try {
      const handle = await open(file, 'wx');
      await handle.writeFile(JSON.stringify({ pid: process.pid, start: await startOf(process.pid) }));
      await handle.close();
      // However the process ends, but for being killed, the folder is free.
      const free = () => rmSync(file, { force: true });
      process.once('exit', free);
      return async () => {
        process.off('exit', free);
        await rm(file, { force: true });
      };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const holder = await holderOf(file);
      if (holder && alive(holder.pid) && (holder.start === undefined || holder.start === (await startOf(holder.pid))))
        throw new FolderInUse(folder, holder.pid);
      if (attempt > 4) throw error;
      // Renamed first, so that of two processes taking over only one removes the stale lock.
      const stale = `${file}.stale-${process.pid}`;
      await rename(file, stale).then(
        () => rm(stale, { force: true }),
        () => undefined,
      );
    }
  }
}

async function holderOf(file: string): Promise<{ pid: number; start?: string } | undefined> {
  for (let attempt = 0; attempt < 5; attempt++) {
    try {
      return JSON.parse(await readFile(file, 'utf8')) as { pid: number; start?: string };
    } catch {
      // Just created and not yet written, or gone again.
      await new Promise((resolve) => setTimeout(resolve, 40));
    }
  }
  return undefined;
}
