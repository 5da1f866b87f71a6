import { randomBytes } from 'node:crypto';
import { chmod, readFile, writeFile } from 'node:fs/promises';
import { keyIn } from '../setup/config';

/**
 * The key of a data folder, made when there is none yet: who has it may ask the server anything, others of this machine nothing.
 * It stays the same, so that a browser that has it need not be given it again.
 */
export async function ownKey(data: string): Promise<string> {
  const file = keyIn(data);
  const known = await readFile(file, 'utf8').then(
    (text) => text.trim(),
    () => '',
  );
  if (/^[0-9a-f]{64}$/.test(known)) {
    await chmod(file, 0o600);
    return known;
  }
  const key = randomBytes(32).toString('hex');
  await writeFile(file, `${key}\n`, { mode: 0o600 });
  await chmod(file, 0o600);
  return key;
}
