import { heldByChecks } from '../../../core/checks/check';
import type { Difference } from '../../../core/drift/difference';
import { oddTypes } from '../../../core/runs/plan';
import type { RunReport } from '../../../core/runs/run';
import { inParallel } from '../../work/in-parallel';
import { differencesIn, type Differing } from '../differing';
import { isOut, otherType } from '../lines';
import type { Carrying, Outcome } from './carry';
import type { Planned } from './plan';

/** What is published of each report, and what is said of it. */
export interface Settled {
  readonly outcomes: readonly Outcome[];
  /** A line a report. */
  readonly lines: readonly RunReport[];
  readonly differences: readonly Difference[];
  /** How many reports were compared with one another. */
  readonly compared: number;
}

/** Which of the reports that were carried wait: they differ, fail a check that holds them back, or have a column of another type. */
export async function settled(
  planned: Planned,
  carrying: Carrying,
  differing: Differing,
  carried: readonly Outcome[],
): Promise<Settled> {
  const { document, plan } = planned;
  const { differences, compared } = await differing.found(document, plan.fates, planned.of.options.signal);
  const answered = await inParallel(carried, 1, async (outcome, i) => {
    const fate = plan.fates[i];
    const { holding, others } = differencesIn(differences, fate.report.id);
    if (fate.does === 'leave' || isOut(outcome.line.state)) return outcome;
    const { matches, layers, problems, parsed } = outcome.line;
    holding.push(...heldByChecks(problems, document.checks));
    const told = { matches, layers, problems: [...others, ...problems] };
    return holding.length > 0
      ? carrying.heldBack(fate, { because: holding, told, parsed })
      : { ...outcome, line: { ...outcome.line, problems: told.problems } };
  });

  // One column has one type: a report in which it has another than in most others waits.
  const odd = oddTypes(answered);
  const outcomes = await inParallel(answered, 1, async (outcome, i) => {
    const column = odd(outcome);
    const fate = plan.fates[i];
    if (!column || fate.does === 'leave') return outcome;
    const { matches, layers, problems, parsed } = outcome.line;
    return carrying.heldBack(fate, {
      because: [otherType(outcome.line, column)],
      told: { matches, layers, problems },
      parsed,
      fits: (of) => odd(of) === undefined,
    });
  });
  const lines = outcomes
    .map(({ line }) => line)
    .filter(({ state, report }) => state !== 'removed' || planned.wasIn(report));
  return { outcomes, lines, differences, compared };
}
