import type { Expecting } from '../drift/difference';
import type { ColumnChoice } from '../steps/column-choice';
import { sameName } from '../sheet/column';
import { zones } from '../steps/step';
import type { Pipeline } from './document';

/** What a document expects of reports: the answers given, its spellings, and the columns that its steps name. */
export function expectingOf({ answers, spellings, ...document }: Pick<Pipeline, 'answers' | 'spellings' | (typeof zones)[number]>): Expecting {
  const said = new Set<string>();
  const collect = (value: unknown): void => {
    if (typeof value === 'string') said.add(value);
    else if (typeof value === 'object' && value !== null) Object.values(value).forEach(collect);
  };
  for (const zone of zones) for (const step of document[zone]) if (!step.off) collect(step.settings);
  for (const { to, from } of spellings) collect([to, from]);
  const flows = zones.some((zone) => document[zone].some(({ kind, off, settings }) => !off && kind === 'unpivot' && (settings['columns'] as ColumnChoice).by !== 'names'));
  const keeps = zones.flatMap((zone) => document[zone].flatMap(({ kind, off, settings }) => (!off && kind === 'pick columns' && (settings['columns'] as ColumnChoice).by === 'names' ? [settings['columns'] as Extract<ColumnChoice, { by: 'names' }>] : [])));
  const leavesOut = (name: string) => keeps.some(({ names }) => !names.some((each) => sameName(each, name)));
  return { answers, flows, leavesOut, spelled: (name) => spellings.find(({ from }) => from.some((each) => sameName(each, name)))?.to ?? name, knows: (name) => said.has(name) };
}
