import type { TakeMatch } from '../intake/take';
import type { Problem } from '../sheet/problem';
import type { Layer } from './carry';

/** How many rows came into a layer and left it, how many it held, and how many problems it had. */
export interface LayerCounts {
  readonly id: string;
  readonly zone: string;
  readonly title: string;
  readonly rowsIn: number;
  readonly rows: number;
  readonly held: number;
  readonly problems: number;
  /** How many columns became rows. */
  readonly turned?: number;
  /** How long it took, ms: of steps over all reports. */
  readonly took?: number;
}

/** How many printed amounts tie out with the dataset, and how many do not. */
export interface TieCounts {
  readonly equal: number;
  readonly rounded: number;
  readonly off: number;
  /** Off, and accepted as misprinted. */
  readonly accepted: number;
  readonly notComparable: number;
}

/** What is kept of a report that was carried: what each rule took, how its rows fell through the layers, and what needs a look. */
export interface CarriedTold {
  readonly matches: readonly Pick<TakeMatch, 'rule' | 'table' | 'pages' | 'sure' | 'rival' | 'lacks'>[];
  readonly layers: readonly LayerCounts[];
  readonly problems: readonly Problem[];
  /** Its printed totals; programs before did not tell. */
  readonly ties?: TieCounts;
}

export const nothingTold: CarriedTold = { matches: [], layers: [], problems: [] };

export const countsOf = (layers: readonly Layer[]): LayerCounts[] =>
  layers.map(({ id, zone, title, rowsIn, sheet, held, problems, turned, took }) => ({
    id,
    zone,
    title,
    rowsIn,
    rows: sheet.rows.length,
    held: held.rows.rows.length,
    problems: problems.length,
    ...(turned === undefined ? {} : { turned }),
    ...(took === undefined ? {} : { took: Math.round(took) }),
  }));

export const heldIn = (layers: readonly Layer[]): number =>
  layers.reduce((sum, { held }) => sum + held.rows.rows.length, 0);

/** Where matches stand on paper can be worked out again; it is not kept. */
export const matchesTold = (matches: readonly TakeMatch[]): CarriedTold['matches'] =>
  matches.map(({ rule, table, pages, sure, rival, lacks }) => ({
    rule,
    table,
    pages,
    sure,
    lacks,
    ...(rival ? { rival } : {}),
  }));

/** Misfits of one column, and other problems of one kind and place, that are told one by one. */
const mostMisfits = 3;
const mostAlike = 20;

/** The problems to tell: of many alike (same kind, step and column) the first ones, the last of them with how many more there are. */
export function toldProblems(problems: readonly Problem[]): Problem[] {
  const told: Problem[] = [];
  const groups = new Map<string, { count: number; last: number }>();
  for (const problem of problems) {
    const key = JSON.stringify([problem.kind, problem.report, problem.step, problem.column]);
    const group = groups.get(key) ?? { count: 0, last: 0 };
    groups.set(key, group);
    group.count++;
    const most = problem.kind === 'misfit' ? mostMisfits : mostAlike;
    if (group.count <= most) group.last = told.push(problem) - 1;
    else told[group.last] = { ...told[group.last], more: group.count - most };
  }
  return told;
}
