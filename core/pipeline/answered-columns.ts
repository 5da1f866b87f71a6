import { answeredName, type Answer } from '../drift/answers';
import type { TakeMatch } from '../intake/take';
import { at, type Problem } from '../sheet/problem';
import { sheet as makeSheet, type Sheet } from '../sheet/sheet';
import { renamedTo } from '../steps/rename';
import { append } from './append';
import type { Layer } from './carry';

/** The columns of tables as the answers to differences have them: called as before, or left out. */
export function withAnswers(
  tables: readonly Sheet[],
  layer: Layer,
  answers: readonly Answer[],
  matches: readonly TakeMatch[],
): { sheets: readonly Sheet[]; layer: Layer } {
  if (answers.length === 0) return { sheets: tables, layer };
  const problems: Problem[] = [];
  const leftOut: Sheet[] = [];
  const sheets = tables.map((each) => {
    const rule = each.rows.length > 0 ? matches.find(({ table }) => table === each.rows.table(0))?.rule : undefined;
    if (rule === undefined) return each;
    const stays = each.columns.filter(({ name }) => answeredName(answers, rule, name) !== undefined);
    if (stays.length < each.columns.length)
      leftOut.push(
        makeSheet(
          each.columns.filter((column) => !stays.includes(column)),
          each.rows,
        ),
      );
    return renamedTo(makeSheet(stays, each.rows), ({ name }) => answeredName(answers, rule, name)!, problems);
  });
  const parts = [...(layer.leftOut.columns.length > 0 ? [layer.leftOut] : []), ...leftOut];
  return {
    sheets,
    layer: {
      ...layer,
      sheet: append(sheets).sheet,
      leftOut: append(parts).sheet,
      problems: [...layer.problems, ...at({ step: layer.id }, problems)],
    },
  };
}
