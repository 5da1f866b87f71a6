import { ruleOf, type LabelSetting, type TakeRule } from '../../../../core/intake/take-rule';
import type { Pipeline } from '../../../../core/pipeline/document';
import type { CutPlace } from './take-card';
import type { ReportSummary, TableFacts } from '../../../../server/contract/contract';

/** The rule by which a found table is taken from this report, if any. */
export const ruleFor = (summary: ReportSummary, table: string): string | undefined => summary.matches.find((match) => match.found.includes(table))?.rule;

export const tableName = (table: TableFacts): string => table.title ?? (table.headingCells.slice(0, 3).join(', ') || `table on page ${table.pieces[0].page}`);

/** So like its heading a table must be to be one of several alike. */
export const alikeEnough = 0.8;

/** The document with a found table taken: known by its title and the words of its heading; or with all that have its heading. */
export function withTable(document: Pipeline, table: TableFacts, which: TakeRule['which'] = 'the likest'): Pipeline {
  const name = freeRuleName(document, tableName(table).slice(0, 80));
  const heading = [...table.headingCells];
  const rule = which === 'all alike' ? ruleOf({ name, heading, which, least: alikeEnough }) : ruleOf({ name, ...(table.title ? { title: table.title } : {}), heading });
  return { ...document, take: [...document.take, rule] };
}

/** A name that no rule bears yet. */
export function freeRuleName(document: Pipeline, wanted: string): string {
  const names = new Set(document.take.map((rule) => rule.name));
  let name = wanted;
  for (let n = 2; names.has(name); n++) name = `${wanted.slice(0, 76)} (${n})`;
  return name;
}

/** The rule's table cut in two: the rule keeps what comes before, a new one takes the rest. */
export function withCut(document: Pipeline, name: string, place: CutPlace): Pipeline {
  const rule = document.take.find((each) => each.name === name)!;
  const rest = ruleOf({ ...rule, name: freeRuleName(document, place.text.slice(0, 80)), cut: { ...place, part: 'from there' } });
  return { ...document, take: document.take.flatMap((each) => (each === rule ? [{ ...rule, cut: { ...place, part: 'before' } }, rest] : [each])) };
}

/** What a value is called until it is given a name: as its label, without the colon. */
export const nameOfLabel = (label: string): string => label.replace(/[\s:.]+$/, '');

/** A value of the report by its label, in the one rule that takes labels. */
export function withLabel(document: Pipeline, label: LabelSetting): Pipeline {
  const rule = document.take.find((each) => each.of === 'labels');
  if (!rule) return { ...document, take: [...document.take, ruleOf({ name: freeRuleName(document, 'Values by label'), of: 'labels', labels: [label] })] };
  return withRule(document, rule.name, { labels: [...rule.labels.filter((each) => each.name !== label.name), label] });
}

export function withoutLabel(document: Pipeline, label: LabelSetting): Pipeline {
  const rule = document.take.find((each) => each.of === 'labels' && each.labels.some(({ name }) => name === label.name));
  if (!rule) return document;
  const labels = rule.labels.filter(({ name }) => name !== label.name);
  return labels.length === 0 ? withoutRule(document, rule.name) : withRule(document, rule.name, { labels });
}

export const withoutRule = (document: Pipeline, name: string): Pipeline => ({ ...document, take: document.take.filter((rule) => rule.name !== name) });

export const withRule = (document: Pipeline, name: string, changes: Partial<TakeRule>): Pipeline => ({
  ...document,
  take: document.take.map((rule) => (rule.name === name ? { ...rule, ...changes } : rule)),
});
