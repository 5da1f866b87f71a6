// Fits the weights of the faults of columns (core/reading/faults.ts) on random papers: those under which the layout that
// gives the known table is chosen most often. npx tsx bench/random/fit-weights.ts --count 400 --seed 3
import { parseArgs } from 'node:util';
import type { PageContent } from '../../core/page/page';
import { layoutsOf } from '../../core/reading/columns';
import { faultNames, faultWeights, weighFaults, type Fault, type Faults } from '../../core/reading/faults';
import { gridOfBands, viewOf } from '../../core/reading/region-view';
import { regionsOf } from '../../core/reading/regions/regions';
import { bandsByLeading } from '../../core/reading/rows';
import { linesOf } from '../../core/page/lines';
import type { TruthTable } from '../scoring/score-files';
import { setPaper } from './set-papers';

/** The hypotheses of one table's columns, and which of them give as many columns as the table has. */
interface Choice {
  readonly faults: readonly Faults[];
  readonly right: readonly boolean[];
}

const squeezed = (text: string) => text.normalize('NFKC').replace(/\s+/g, '');

function choicesOn(page: PageContent, tables: readonly TruthTable[]): Choice[] {
  return regionsOf(page, new Set()).flatMap((region): Choice[] => {
    const words = squeezed(
      region.words
        .map((w) => page.words[w].text)
        .sort()
        .join(''),
    );
    const table = tables.find(
      ({ cells, page: number }) =>
        number === page.number &&
        squeezed(
          cells
            .flatMap(({ text }) => text.split(/\s+/))
            .sort()
            .join(''),
        ) === words,
    );
    const judged = layoutsOf(page, linesOf(page.words, region.words), region.box[0], region.box[2]);
    if (!table || judged.length < 2) return [];
    const want = new Set(
      table.cells.filter(({ text }) => text !== '').map(({ text, row, col }) => `${row} ${col} ${squeezed(text)}`),
    );
    const right = judged.map((_, n) => {
      const view = viewOf(page, region.words, region.box, n);
      const grid = view.layout && gridOfBands(page, view, bandsByLeading(page, view.lines, view.layout));
      return (
        grid !== undefined &&
        grid.cells.length === want.size &&
        grid.cells.every(({ row, column, text }) => want.has(`${row} ${column} ${squeezed(text)}`))
      );
    });
    return [{ faults: judged.map(({ faults }) => faults), right }];
  });
}

type Weights = Record<Fault, number>;

/** How many choices come out right, where any hypothesis is. */
const rightUnder = (choices: readonly Choice[], weights: Weights) =>
  choices.filter(
    ({ faults, right }) =>
      right[
        faults
          .map((own) => weighFaults(own, weights))
          .reduce((best, weight, i, all) => (weight < all[best] ? i : best), 0)
      ],
  ).length;

const { values } = parseArgs({
  options: { count: { type: 'string', default: '400' }, seed: { type: 'string', default: '3' } },
});
const choices: Choice[] = [];
for (let index = 0; index < Number(values.count); index++) {
  const { truth, pages } = await setPaper(Number(values.seed), index);
  choices.push(
    ...pages
      .flatMap((page) => choicesOn(page, truth.tables))
      .filter(({ right }) => right.includes(true) && right.includes(false)),
  );
}
const [fitted, unseen] = [choices.filter((_, i) => i % 2 === 0), choices.filter((_, i) => i % 2 === 1)];
const tell = (name: string, weights: Weights) =>
  console.log(
    `${name}: ${rightUnder(fitted, weights)} of ${fitted.length} fitted, ${rightUnder(unseen, weights)} of ${unseen.length} unseen  ${JSON.stringify(weights)}`,
  );
tell('now', faultWeights);
// Coordinate search: one weight after the other over a scale of factors, until none of them helps.
let best: Weights = { ...faultWeights };
for (let better = true; better;) {
  better = false;
  for (const name of faultNames)
    for (const factor of [0.25, 0.5, 0.7, 0.85, 1.2, 1.5, 2, 4]) {
      const tried = { ...best, [name]: Math.round(best[name] * factor * 100) / 100 };
      if (rightUnder(fitted, tried) > rightUnder(fitted, best)) [best, better] = [tried, true];
    }
}
tell('best', best);
