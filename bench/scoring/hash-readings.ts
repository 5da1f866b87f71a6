import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { findTables } from '../../core/reading/find-tables';
import { plainRows } from '../../core/reading/found-table';
import { namesIn, pagesOf, readTruth } from './score-files';

const bench = fileURLToPath(new URL('..', import.meta.url));

/** What the reader makes of the files of bench/, the very long one left out, as one hash. */
export async function hashOfReadings(): Promise<{ hash: string }> {
  const hash = createHash('sha256');
  for (const folder of ['truth', 'pages'].map((name) => join(bench, name)))
    for (const name of namesIn(folder)) {
      const truth = readTruth(folder, name);
      if (truth.error || truth.layout === 'big') continue;
      const tables = findTables(await pagesOf(join(folder, `${name}.pdf`), truth.password));
      hash.update(
        JSON.stringify([
          name,
          tables.map(({ pieces }) =>
            pieces.map(({ title, continues, readings }) => [
              title,
              continues,
              readings.map((reading) => [reading.name, reading.headingRows, plainRows(reading)]),
            ]),
          ),
        ]),
      );
    }
  return { hash: hash.digest('hex') };
}
