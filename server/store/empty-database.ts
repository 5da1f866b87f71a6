import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { builtFile } from '../setup/built';

/** What a new database begins with: made once when the program is built, as making it takes seconds. @returns undefined where there is a database already */
export function emptyDatabase(folder?: string): Blob | undefined {
  if (folder !== undefined && existsSync(join(folder, 'PG_VERSION'))) return undefined;
  return new Blob([readFileSync(builtFile('empty-database.tar'))]);
}
