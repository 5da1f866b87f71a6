import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { WebDriver } from 'selenium-webdriver';
import { failuresLine, reportTable } from '../scoring/report';
import { figuresLine, figuresOf, scorePages, type ScoredFile } from '../scoring/score-files';
import { setPaper } from './set-papers';

export interface RandomRead {
  readonly file: ScoredFile;
  readonly properties: readonly string[];
}

export interface RandomOptions {
  readonly seed: number;
  readonly count: number;
  readonly browser?: WebDriver;
  /** A folder for the papers and what is known of them. */
  readonly keep?: string;
}

/** Sets random papers and scores how they are read. */
export async function readRandom({ seed, count, browser, keep }: RandomOptions): Promise<RandomRead[]> {
  const read: RandomRead[] = [];
  for (let index = 0; index < count; index++) {
    const { paper, truth, pages, bytes } = await setPaper(seed, index, browser);
    if (keep) {
      mkdirSync(keep, { recursive: true });
      writeFileSync(join(keep, `${paper.name}.pdf`), bytes);
      writeFileSync(join(keep, `${paper.name}.truth.json`), JSON.stringify(truth));
    }
    read.push({ file: scorePages(paper.name, truth, pages), properties: paper.properties });
  }
  return read;
}

const isWrong = ({ file }: RandomRead) => file.spurious.length > 0 || file.tables.some((table) => !table.exact);

/** Prints the figures, in what tables failed, and failures by property of the paper, so that weaknesses show as clusters. */
export function reportRandom(read: readonly RandomRead[], seed: number, worst: number): void {
  const files = read.map(({ file }) => file);
  console.log(figuresLine(`random, seed ${seed}`, figuresOf(files)));
  console.log(`  ${failuresLine(files)}`);
  const clusters = [...new Set(read.flatMap((each) => each.properties))].map((property) => {
    const own = read.filter((each) => each.properties.includes(property));
    return { property, own: own.length, wrong: own.filter(isWrong).length };
  });
  console.log('\nPapers read wrong, by property');
  for (const { property, own, wrong } of clusters.sort((a, b) => b.wrong / b.own - a.wrong / a.own))
    console.log(
      `  ${property.padEnd(24)} ${String(wrong).padStart(4)} of ${String(own).padStart(4)}  ${((100 * wrong) / own).toFixed(0)} %`,
    );
  const failed = files
    .flatMap((file) => file.tables.filter((table) => !table.exact).map((table) => ({ file, table })))
    .sort((a, b) => a.table.f - b.table.f);
  for (const { file, table } of failed.slice(0, worst)) reportTable(file, table, 4);
}
