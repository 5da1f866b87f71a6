import { existsSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';

/** The built file of a worker thread: beside the running bundle, or in `dist/server` when run from the sources. */
export function builtThread(name: string): URL {
  const beside = new URL(`./${name}.mjs`, import.meta.url);
  if (existsSync(beside)) return beside;
  const built = fileURLToPath(new URL(`../../dist/server/${name}.mjs`, import.meta.url));
  if (!existsSync(built)) throw new Error(`The program is not built yet: ${built} is missing. Run: npm run build`);
  return pathToFileURL(built);
}
