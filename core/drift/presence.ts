import { covers, type Answer } from './answers';
import type { Expecting, Found, Proposal } from './difference';
import { moment, nameKey } from './name-key';
import { likenessOf, referenceOf } from './reference';
import { columnOf, expectedOf, type ResolvedColumn, type ResolvedTable } from './resolved';

type Tables = readonly (ResolvedTable | undefined)[];

/** Columns that came or went, for the reports by their places; whether answered is looked at later. */
interface Presence {
  readonly key: string;
  /** The name in the first report of these, or in those before. */
  readonly name: string;
  readonly at: readonly number[];
}

/** A column that comes and goes so often, in no less than so large a part, is one that may be there or not. */
const comesAndGoes = 3;
const leastPart = 0.2;

/**
 * Columns that some reports have and others not: new, missing, or another in the place of one that was there.
 * @returns with them the places of the reports whose columns are in question
 */
export function presenceDifferences(
  rule: string,
  tables: Tables,
  expecting: Expecting,
): { found: Found[]; unsettled: ReadonlyMap<number, ReadonlySet<string>> } {
  const keys = [...new Set(tables.flatMap((table) => table?.columns.map(({ key }) => key) ?? []))];
  const added: Presence[] = [];
  const missing: Presence[] = [];
  for (const key of keys) {
    const { comes, goes, name } = walked(rule, key, tables, expecting);
    if (comes.length > 0 && !expecting.knows(name))
      added.push({ key, name: columnOf(tables[comes[0]], key)!.printed.name, at: comes });
    if (goes.length > 0 && !isAwaited(key, name, goes, tables, expecting)) missing.push({ key, name, at: goes });
  }
  const unsettled = new Map<number, Set<string>>();
  for (const { key, at } of [...added, ...missing])
    for (const i of at) unsettled.set(i, (unsettled.get(i) ?? new Set()).add(key));

  const pairs = inPlaceOf(added, missing, tables);
  // Before anything is published the document is made with all reports at hand: what its steps leave out by name is decided.
  const accepted = tables.some((table) => table?.seen.known);
  // Columns that a step turns into rows by a rule come and go: they are told, and wait only where one looks like a heading spelled otherwise.
  const comesFreely = (name: string) => expecting.flows === true && !expecting.knows(name);
  const found = [
    ...added.map((each): Found => {
      const pair = pairs.find(({ comes }) => comes === each);
      return {
        what: 'new column',
        rule,
        column: each.name,
        ...(pair?.whole ? { other: pair.goes.name } : {}),
        ...between(each, tables),
        at: each.at,
        holds: pair?.whole
          ? !comesFreely(pair.goes.name) || isNearly(each.name, pair.goes.name)
          : !comesFreely(each.name) && (accepted || expecting.leavesOut?.(each.name) !== true),
        proposals: [
          ...sameAs(each, pairs),
          { decided: 'as it is' },
          { decided: 'leave out' },
          { decided: 'hold back' },
        ],
      };
    }),
    ...missing
      .filter((each) => !pairs.some(({ goes, whole }) => whole && goes === each))
      .map((each): Found => ({
        what: 'missing column',
        rule,
        column: each.name,
        at: each.at,
        holds: !comesFreely(each.name),
        proposals: [{ decided: 'as it is' }, { decided: 'hold back' }],
      })),
  ];
  return { found, unsettled };
}

/** So large a part of the pairs of letters of two names are the same. */
const nearly = 0.7;

/** Are two names nearly the same letters (Dice's coefficient over pairs of letters)? */
function isNearly(a: string, b: string): boolean {
  const pairs = (text: string) =>
    Array.from({ length: Math.max(0, text.length - 1) }, (_, i) => text.slice(i, i + 2).toLowerCase());
  const left = pairs(a);
  const right = pairs(b);
  const common = left.filter((pair) => right.includes(pair)).length;
  return left.length + right.length > 0 && (2 * common) / (left.length + right.length) >= nearly;
}

/** Where a column is though it was not expected, and where it is not though it was, report by report; an answer changes what is expected from there on. */
function walked(
  rule: string,
  key: string,
  tables: Tables,
  { answers }: Expecting,
): { comes: number[]; goes: number[]; name: string } {
  const has = (i: number) => columnOf(tables[i], key) !== undefined;
  const all = tables.flatMap((table, i) => (table ? [i] : []));
  const name = columnOf(tables[all.find(has)!], key)!.name;
  const speaking = answers.filter(
    (each) =>
      each.rule === rule &&
      each.decided === 'as it is' &&
      (each.what === 'new column' || each.what === 'missing column') &&
      nameKey(each.column) === nameKey(name),
  );
  const answerFor = (i: number, what: Answer['what']) =>
    speaking.find((each) => each.what === what && covers(each, tables[i]!.seen));
  const untold = expectedOf(tables).filter((i) => !answerFor(i, 'new column') && !answerFor(i, 'missing column'));
  let expected =
    untold.length === 0
      ? !answerFor(all[0], 'new column')
      : usually(
          untold.map(has),
          tables.some((table) => table?.seen.known),
        );
  const [comes, goes]: [number[], number[]] = [[], []];
  for (const i of all) {
    if (has(i) === expected) continue;
    const answered = answerFor(i, has(i) ? 'new column' : 'missing column');
    if (!answered) (has(i) ? comes : goes).push(i);
    else if (!answered.only) expected = has(i);
  }
  return { comes, goes, name };
}

/** Whether a column is expected. What changes once, among reports that none has accepted yet, is expected as it was before; else as it is in most. */
function usually(presence: readonly boolean[], accepted: boolean): boolean {
  const changes = presence.slice(1).filter((here, i) => here !== presence[i]).length;
  const here = presence.filter(Boolean).length * 2;
  return (changes === 1 && !accepted) || here === presence.length ? presence[0] : here > presence.length;
}

/** A column whose absence the document allows for: it begins only later, it comes and goes, or another that the document names stands in its place. */
function isAwaited(key: string, name: string, goes: readonly number[], tables: Tables, { knows }: Expecting): boolean {
  const all = tables.flatMap((table, i) => (table ? [i] : []));
  const presence = all.map((i) => columnOf(tables[i], key) !== undefined);
  const changes = presence.slice(1).filter((here, i) => here !== presence[i]).length;
  const part = presence.filter((here) => !here).length / presence.length;
  if (changes >= comesAndGoes && Math.min(part, 1 - part) >= leastPart) return true;
  if (key === moment) return false;
  if (knows(name) && goes.at(-1)! < all[presence.indexOf(true)]) return true;
  const stands = (other: string) =>
    goes.every((i) => columnOf(tables[i], other)) &&
    all.every((i) => !columnOf(tables[i], key) || !columnOf(tables[i], other));
  return tables[goes[0]]!.columns.some((other) => knows(other.name) && stands(other.key));
}

interface Pair {
  readonly comes: Presence;
  readonly goes: Presence;
  readonly likeness: number;
  /** The one is there in just those reports in which the other is not. */
  readonly whole: boolean;
}

/** So like in values that one is taken to stand in the place of the other. */
const alike = 0.5;

/** Columns that may be others under a new name: where the one is the other is not. Each stands in the place of one at most. */
function inPlaceOf(added: readonly Presence[], missing: readonly Presence[], tables: Tables): Pair[] {
  const pairs: Pair[] = [];
  for (const comes of added)
    for (const goes of missing) {
      if (
        !comes.at.every((i) => goes.at.includes(i)) ||
        tables.some((table) => columnOf(table, comes.key) && columnOf(table, goes.key))
      )
        continue;
      const reference = referenceOf(tables.flatMap((table) => columnOf(table, goes.key)?.printed ?? []));
      pairs.push({
        comes,
        goes,
        likeness: likenessOf(columnOf(tables[comes.at[0]], comes.key)!.printed, reference),
        whole: false,
      });
    }
  pairs.sort((a, b) => b.likeness - a.likeness);
  const [used, replaced] = [new Set<Presence>(), new Set<Presence>()];
  return pairs.map((pair) => {
    const whole =
      pair.likeness >= alike &&
      pair.comes.at.length === pair.goes.at.length &&
      !used.has(pair.comes) &&
      !replaced.has(pair.goes);
    if (!whole) return pair;
    used.add(pair.comes);
    replaced.add(pair.goes);
    return { ...pair, whole };
  });
}

const mostOffered = 3;
const sameAs = (each: Presence, pairs: readonly Pair[]): Proposal[] =>
  pairs
    .filter(({ comes }) => comes === each)
    .sort((a, b) => Number(b.whole) - Number(a.whole))
    .slice(0, mostOffered)
    .map(({ goes, likeness }) => ({
      decided: 'same as',
      other: goes.name,
      likeness: Math.round(likeness * 100) / 100,
    }));

/** The columns between which a new one stands. */
function between({ key, at }: Presence, tables: Tables): { now?: string } {
  const columns: readonly ResolvedColumn[] = tables[at[0]]!.columns;
  const place = columns.findIndex((column) => column.key === key);
  const [before, after] = [columns[place - 1], columns[place + 1]].map((column) => column && `“${column.name}”`);
  return {
    now:
      before && after
        ? `between ${before} and ${after}`
        : before
          ? `after ${before}`
          : after
            ? `before ${after}`
            : 'alone',
  };
}
