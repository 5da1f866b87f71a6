import { existsSync } from 'node:fs';
import { fileURLToPath, pathToFileURL } from 'node:url';

/** The built file of a worker thread. */
export const builtThread = (name: string): URL => builtFile(`${name}.mjs`);

/** A file of the built server: beside the running bundle, or in `dist/server` when run from the sources. */
export function builtFile(name: string): URL {
  const beside = new URL(`./${name}`, import.meta.url);
  if (existsSync(beside)) return beside;
  const built = fileURLToPath(new URL(`../../dist/server/${name}`, import.meta.url));
  if (!existsSync(built)) throw new Error(`The program is not built yet: ${built} is missing. Run: npm run build`);
  return pathToFileURL(built);
}
