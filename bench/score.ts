// Scores the reading against a folder of files with known tables, quickly and in one process:
// tsx bench/score.ts FOLDER [--half even|odd] [--only REGEX] [--worst N] [--cache FOLDER]
import { parseArgs } from 'node:util';
import { failuresLine, reportTable } from './scoring/report';
import { figuresLine, figuresOf, namesIn, scoreFolder } from './scoring/score-files';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    half: { type: 'string' },
    only: { type: 'string' },
    worst: { type: 'string', default: '0' },
    cache: { type: 'string' },
    full: { type: 'boolean' },
  },
});
const only = new RegExp(values.only ?? '.');

for (const folder of positionals) {
  // Every second stem (kind and writer), so that no paper of a half was set as one of the other half.
  const stems = [...new Set(namesIn(folder).map((name) => name.replace(/-\d+$/, '')))];
  const inHalf = (name: string) =>
    values.half === undefined || stems.indexOf(name.replace(/-\d+$/, '')) % 2 === (values.half === 'even' ? 0 : 1);
  const files = await scoreFolder(folder, (name) => only.test(name) && inHalf(name), values.cache);
  console.log(figuresLine(folder.split('/').at(-1)!, figuresOf(files)));
  console.log(`  ${failuresLine(files)}`);
  const wrong = files
    .flatMap((file) => file.tables.filter((table) => !table.exact).map((table) => ({ file, table })))
    .sort((a, b) => a.table.f - b.table.f);
  for (const { file, table } of wrong.slice(0, Number(values.worst)))
    reportTable(file, table, values.full ? Infinity : 5);
  if (Number(values.worst) > 0)
    for (const file of files)
      for (const invented of file.spurious.slice(0, 3))
        console.log(
          `  INVENTED ${file.name} p${invented.page} ${invented.rows}x${invented.cols}: ${invented._p.rows
            .slice(0, 2)
            .map((row) => row.join('|'))
            .join(' // ')
            .slice(0, 150)}`,
        );
  const slow = [...files].sort((a, b) => b.time / b.textPages - a.time / a.textPages)[0];
  if (slow)
    console.log(
      `  slowest: ${slow.name}, ${(slow.time / slow.textPages).toFixed(0)} ms a page; all ${files.reduce((sum, file) => sum + file.time, 0).toFixed(0)} ms`,
    );
}
