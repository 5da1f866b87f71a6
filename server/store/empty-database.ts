import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { builtFile } from '../setup/built';

/** What a new database begins with: made once when the program is built, as making it takes seconds. @returns undefined where there is a database already */
export async function emptyDatabase(folder?: string): Promise<Blob | undefined> {
  if (folder !== undefined && existsSync(join(folder, 'PG_VERSION'))) return undefined;
  return new Blob([await readFile(builtFile('empty-database.tar'))]);
}
