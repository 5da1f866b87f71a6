import type { Serving } from '../house/serve';

/** Asks a server as its owner does. */
export const asOwner =
  ({ url, key }: Pick<Serving, 'url' | 'key'>) =>
  (path: string, init: RequestInit = {}): Promise<Response> =>
    fetch(new URL(path, url), {
      ...init,
      headers: { ...(init.headers as Record<string, string> | undefined), Authorization: `Bearer ${key}` },
    });
