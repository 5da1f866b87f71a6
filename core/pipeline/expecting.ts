import type { Expecting } from '../drift/difference';
import { sameName } from '../sheet/column';
import type { ColumnChoice } from '../steps/column-choice';
import { withNames } from '../steps/follow-names';
import { zones } from '../steps/step';
import { asReport } from '../values/marks';
import type { Pipeline } from './document';

/** What a document expects of reports: the answers given, its spellings, and the columns that its steps name. */
export function expectingOf({
  answers,
  spellings,
  ...document
}: Pick<Pipeline, 'answers' | 'spellings' | (typeof zones)[number]>): Expecting {
  const steps = zones.flatMap((zone) => document[zone]).filter(({ off }) => !off);
  const named = new Set(spellings.flatMap(({ to, from }) => [to, ...from]));
  for (const step of steps)
    withNames(step, (name) => {
      named.add(name);
      return undefined;
    });
  // A column that only some reports have is named by a pattern that fits it alone.
  for (const step of steps)
    if (step.kind === 'set types')
      for (const { columns } of step.settings['types'] as { columns: ColumnChoice }[])
        if (columns.by === 'names matching' && !columns.pattern.includes('*')) named.add(columns.pattern);
  const choices = (kind: string) =>
    steps.flatMap((step) => (step.kind === kind ? [step.settings['columns'] as ColumnChoice] : []));
  const kept = choices('pick columns').flatMap((choice) => (choice.by === 'names' ? [choice.names] : []));
  return {
    answers,
    spelled: (name) => spellings.find(({ from }) => from.some((each) => sameName(each, name)))?.to ?? name,
    knows: (name) => named.has(name),
    flows: choices('unpivot').some(({ by }) => by !== 'names'),
    leavesOut: (name) => kept.some((names) => !names.some((each) => sameName(each, name))),
    ownMarks: steps.some(
      ({ kind, settings }) =>
        kind === 'set types' && (settings['types'] as { marks?: string }[]).some(({ marks }) => marks === asReport),
    ),
  };
}
