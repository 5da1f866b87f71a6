import { createHash, randomBytes } from 'node:crypto';
import type { Store } from './store';

export interface Reader {
  readonly name: string;
  readonly since: string;
}

const digestOf = (token: string): string => createHash('sha256').update(token).digest('hex');

export const readersOf = async (store: Store): Promise<Reader[]> =>
  (await store.query<{ name: string; created_at: string }>('select name, created_at from reader order by name')).map(
    ({ name, created_at }) => ({ name, since: created_at }),
  );

/** Gives a reader a token, in the place of one that it had. It is told once; only its digest is kept. */
export async function addReader(store: Store, name: string): Promise<string> {
  const token = randomBytes(24).toString('base64url');
  await store.execute(
    'insert into reader (name, digest) values ($1, $2) on conflict (name) do update set digest = excluded.digest, created_at = now()',
    [name, digestOf(token)],
  );
  return token;
}

/** @returns whether there was one */
export const removeReader = async (store: Store, name: string): Promise<boolean> =>
  (await store.execute('delete from reader where name = $1', [name])) > 0;

/** Is it the token of a reader? Looked for by its digest, so that nothing is told by how long that takes. */
export const isReaderToken = async (store: Store, token: string): Promise<boolean> =>
  (await store.query('select 1 from reader where digest = $1', [digestOf(token)])).length > 0;

/** Is it the token of this reader? */
export const isTokenOf = async (store: Store, name: string, token: string): Promise<boolean> =>
  (await store.query('select 1 from reader where name = $1 and digest = $2', [name, digestOf(token)])).length > 0;
