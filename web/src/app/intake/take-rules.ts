import { ruleOf, type TakeRule } from '../../../../core/intake/take-rule';
import type { Pipeline } from '../../../../core/pipeline/document';
import type { ReportSummary, TableFacts } from '../../../../server/api/contract';

/** The rule by which a found table is taken from this report, if any. */
export const ruleFor = (summary: ReportSummary, table: string): string | undefined => summary.matches.find((match) => match.table === table)?.rule;

export const tableName = (table: TableFacts): string => table.title ?? (table.headingCells.slice(0, 3).join(', ') || `table on page ${table.pieces[0].page}`);

/** The document with a found table taken: known by its title and the words of its heading. */
export function withTable(document: Pipeline, table: TableFacts): Pipeline {
  const names = new Set(document.take.map((rule) => rule.name));
  let name = tableName(table).slice(0, 80);
  for (let n = 2; names.has(name); n++) name = `${tableName(table).slice(0, 76)} (${n})`;
  const rule = ruleOf({ name, ...(table.title ? { title: table.title } : {}), heading: [...table.headingCells] });
  return { ...document, take: [...document.take, rule] };
}

export const withoutRule = (document: Pipeline, name: string): Pipeline => ({ ...document, take: document.take.filter((rule) => rule.name !== name) });

export const withRule = (document: Pipeline, name: string, changes: Partial<TakeRule>): Pipeline => ({
  ...document,
  take: document.take.map((rule) => (rule.name === name ? { ...rule, ...changes } : rule)),
});
