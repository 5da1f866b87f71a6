// Reads random papers with known tables and counts failures by property of the paper:
// tsx bench/score-random.ts [--count 200] [--seed 7] [--worst N] [--keep FOLDER] [--no-browser]
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { openBrowser, setPaper } from './random/set-papers';
import { failuresLine, reportTable } from './reading/report';
import { figuresLine, figuresOf, scorePages, type ScoredFile } from './reading/scoring';

const { values } = parseArgs({
  options: { count: { type: 'string', default: '200' }, seed: { type: 'string', default: '7' }, worst: { type: 'string', default: '0' }, keep: { type: 'string' }, only: { type: 'string' }, browser: { type: 'boolean', default: true } },
  allowNegative: true,
});
const [count, seed] = [Number(values.count), Number(values.seed)];
const browser = values.browser ? await openBrowser() : undefined;
const scored: { file: ScoredFile; properties: readonly string[] }[] = [];
for (let index = 0; index < count; index++) {
  if (values.only !== undefined && Number(values.only) !== index) continue;
  const { paper, truth, pages, bytes } = await setPaper(seed, index, browser);
  if (values.keep) {
    mkdirSync(values.keep, { recursive: true });
    writeFileSync(join(values.keep, `${paper.name}.pdf`), bytes);
    writeFileSync(join(values.keep, `${paper.name}.truth.json`), JSON.stringify(truth));
  }
  scored.push({ file: scorePages(paper.name, truth, pages), properties: paper.properties });
}
await browser?.quit();

console.log(figuresLine(`random, seed ${seed}`, figuresOf(scored.map(({ file }) => file))));
const properties = [...new Set(scored.flatMap((each) => each.properties))].sort();
const wrong = ({ file }: (typeof scored)[number]) => file.spurious.length > 0 || file.tables.some((table) => !table.exact);
console.log(`  ${failuresLine(scored.map(({ file }) => file))}`);
console.log('\nPapers read wrong, by property');
const clusters = properties.map((property) => {
  const own = scored.filter((each) => each.properties.includes(property));
  return { property, own: own.length, wrong: own.filter(wrong).length };
});
for (const { property, own, wrong: bad } of clusters.sort((a, b) => b.wrong / b.own - a.wrong / a.own)) console.log(`  ${property.padEnd(24)} ${String(bad).padStart(4)} of ${String(own).padStart(4)}  ${((100 * bad) / own).toFixed(0)} %`);
const worst = scored.flatMap(({ file }) => file.tables.filter((table) => !table.exact).map((table) => ({ file, table }))).sort((a, b) => a.table.f - b.table.f);
for (const { file, table } of worst.slice(0, Number(values.worst))) reportTable(file, table, 4);
if (Number(values.worst) > 0)
  for (const { file } of scored) for (const invented of file.spurious) console.log(`  INVENTED ${file.name} p${invented.page} ${invented.rows}x${invented.cols}: ${invented._p.rows.slice(0, 2).map((row) => row.join('|')).join(' // ').slice(0, 150)}`);
