import { sameName } from '../../../../core/sheet/column';
import type { ListSource } from '../../../../core/sheet/list';
import type { ListAnswer } from '../../../../server/contract/contract';

/** The settings of a step that looks up, as its form writes them. */
export interface LookUpSettings {
  readonly from: ListSource;
  readonly keys: readonly { readonly column: string; readonly of: string }[];
  readonly columns: readonly { readonly name: string; readonly into: string }[];
  readonly missing: string;
  readonly twice: string;
}

/** Another list: keys that both have by name are taken over, or found; what it does not have is no longer brought. */
export function withList(settings: LookUpSettings, list: Pick<ListAnswer, 'is' | 'name' | 'columns'>, here: readonly string[]): LookUpSettings {
  const has = (name: string) => list.columns.find((each) => sameName(each, name));
  const kept = settings.keys.filter(({ of }) => has(of) !== undefined);
  const common = here.find((name) => has(name) !== undefined);
  return {
    ...settings,
    from: { is: list.is, name: list.name },
    keys: kept.length > 0 ? kept : common === undefined ? [] : [{ column: common, of: has(common)! }],
    columns: settings.columns.filter(({ name }) => has(name) !== undefined),
  };
}

/** A column of the list is brought, or no longer; they stand in the order of the list. */
export function withColumn({ columns, ...settings }: LookUpSettings, name: string, on: boolean, order: readonly string[]): LookUpSettings {
  const others = columns.filter((each) => each.name !== name);
  return { ...settings, columns: (on ? [...others, { name, into: '' }] : others).sort((a, b) => order.indexOf(a.name) - order.indexOf(b.name)) };
}
