import * as v from 'valibot';
import { plainRows, type FoundTable } from '../reading/found-table';
import type { Problem } from '../sheet/problem';
import { readingNamed } from './table-sheet';

/** Which found table of each report enters the pipeline: the one most like this title and these heading words. */
export const takeRule = v.object({
  name: v.pipe(v.string(), v.minLength(1)),
  title: v.optional(v.string()),
  heading: v.optional(v.array(v.string()), []),
  reading: v.optional(v.picklist(['best', 'tagged', 'ruled', 'aligned', 'line by line']), 'best'),
  /** Least likeness, 0 to 1, at which a table is taken. */
  least: v.optional(v.pipe(v.number(), v.minValue(0), v.maxValue(1)), 0.5),
  which: v.optional(v.picklist(['the likest', 'all alike']), 'the likest'),
});
export type TakeRule = v.InferOutput<typeof takeRule>;

export interface TakeMatch {
  readonly rule: string;
  readonly table: string;
  readonly pages: readonly number[];
  /** 0 to 1. */
  readonly sure: number;
  /** Another table as much alike: the two cannot be told apart. */
  readonly rival?: string;
}

/** Two tables this close in likeness cannot be told apart. */
const tooClose = 0.05;

/** A share of the words that two texts have in common (Dice's coefficient over bags of words), 0 to 1. */
export function likeness(a: string, b: string): number {
  const words = (text: string) => text.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const left = words(a);
  const right = words(b);
  if (left.length + right.length === 0) return 1;
  const bag = new Map<string, number>();
  for (const word of left) bag.set(word, (bag.get(word) ?? 0) + 1);
  let common = 0;
  for (const word of right) {
    const count = bag.get(word) ?? 0;
    if (count > 0) {
      common++;
      bag.set(word, count - 1);
    }
  }
  return (2 * common) / (left.length + right.length);
}

/** The text of a table's heading rows. */
export function headingText(table: FoundTable, reading: TakeRule['reading'] = 'best'): string {
  const first = readingNamed(table.pieces[0].readings, reading);
  return plainRows(first).slice(0, Math.max(1, first.headingRows)).flat().join(' ');
}

const roundedTo2 = (n: number) => Math.round(n * 100) / 100;

function sureness(rule: TakeRule, table: FoundTable): number {
  const byHeading = rule.heading.length > 0 ? likeness(rule.heading.join(' '), headingText(table, rule.reading)) : undefined;
  const byTitle = rule.title ? likeness(rule.title, table.title ?? '') : undefined;
  if (byHeading !== undefined && byTitle !== undefined) return roundedTo2(0.65 * byHeading + 0.35 * byTitle);
  return roundedTo2(byHeading ?? byTitle ?? 0);
}

/** What each rule takes from one report's found tables, and what needs a look: none found, or two too close to tell. */
export function takeTables(rules: readonly TakeRule[], tables: readonly FoundTable[], report: string): { matches: TakeMatch[]; problems: Problem[] } {
  const matches: TakeMatch[] = [];
  const problems: Problem[] = [];
  for (const rule of rules) {
    const ranked = tables.map((table) => ({ table, sure: sureness(rule, table) })).sort((a, b) => b.sure - a.sure);
    const good = ranked.filter(({ sure }) => sure >= rule.least);
    if (good.length === 0)
      problems.push({
        kind: 'not taken',
        report,
        expected: `a table like “${rule.name}”`,
        came: ranked[0] ? `at best “${ranked[0].table.title ?? `the table on page ${ranked[0].table.pieces[0].page}`}” (likeness ${ranked[0].sure})` : 'no table at all',
        remedy: 'Take a table of this report by hand, or let the report be left out.',
      });
    const rival = rule.which === 'the likest' && good.length > 1 && good[0].sure - good[1].sure < tooClose ? good[1].table.id : undefined;
    if (rival)
      problems.push({
        kind: 'not taken',
        report,
        page: good[1].table.pieces[0].page,
        expected: `one table like “${rule.name}”`,
        came: `two (${good[0].table.id} and ${good[1].table.id}); the first was taken`,
        remedy: 'Tell them apart by a title or more heading words, or take all alike.',
      });
    for (const { table, sure } of rule.which === 'all alike' ? good : good.slice(0, 1))
      matches.push({ rule: rule.name, table: table.id, pages: table.pieces.map((piece) => piece.page), sure, ...(rival ? { rival } : {}) });
  }
  return { matches, problems };
}
