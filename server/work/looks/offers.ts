import { effectOn } from '../../../core/suggest/effect-on';
import { offersForEdge } from '../../../core/suggest/for-edge';
import { offersForPart } from '../../../core/suggest/for-part';
import { offersFor, type Offer } from '../../../core/suggest/for-selection';
import { offersForWord } from '../../../core/suggest/for-word';
import type { Sheet } from '../../../core/sheet/sheet';
import { lettingPass } from '../../../core/steps/let-pass';
import type { Zone } from '../../../core/steps/step';
import type { OffersOf } from '../../contract/contract';
import { listsIn } from '../../lists/lists-in';
import { layersUntil, lookedAt, type Look } from '../session';

/** Steps that may be wanted below a layer, each with what it would do to the sheet there. */
export async function offers(
  task: Look & { step?: string | undefined; of: OffersOf },
): Promise<{ offers: readonly Offer[] }> {
  const { layers, paper, content } = await lookedAt(task, task.step);
  const layer = layersUntil(layers, task.step).at(-1);
  if (!layer || layer.sheet.rows.length === 0) return { offers: [] };
  const { sheet } = layer;
  const { of } = task;
  if ('steps' in of) return { offers: await lastOf(of.steps, task, sheet) };
  const papers = () => paper;
  const around = { papers, lists: listsIn(task.source.cacheFolder), letPass: lettingPass([], papers) };
  const isThere = (row: number, column: number) => row < sheet.rows.length && column < sheet.columns.length;
  if ('word' in of) {
    const page = content.pages.find(({ number }) => number === of.word.page);
    return {
      offers: page?.words[of.word.word]
        ? offersForWord(sheet, { page, lines: paper.lines(page.number), word: of.word.word }, around)
        : [],
    };
  }
  if ('part' in of)
    return { offers: isThere(of.part.row, of.part.column) ? offersForPart(sheet, of.part, around) : [] };
  if ('edge' in of) return { offers: offersForEdge(sheet, of.edge, around) };
  return {
    offers: isThere(of.selected.rows[1], of.selected.columns[1])
      ? offersFor(sheet, of.selected, around, { key: task.source.key, paper })
      : [],
  };
}

/** What the last of some steps would do, on what those before it make of the report. */
async function lastOf(
  steps: Extract<OffersOf, { steps: unknown }>['steps'],
  task: Look,
  sight: Sheet,
): Promise<Offer[]> {
  const last = steps.at(-1);
  if (!last) return [];
  const document = JSON.parse(task.document) as Record<Zone, readonly unknown[]>;
  const { layers } = await lookedAt(
    {
      ...task,
      document: JSON.stringify(
        steps.reduce((all, { zone, step }) => ({ ...all, [zone]: [...all[zone], step] }), document),
      ),
    },
    last.step.id,
  );
  const at = layers.findIndex(({ id }) => id === last.step.id);
  if (at < 1) return [];
  const { sheet, held, leftOut, overwritten, problems } = layers[at];
  if (problems.some(({ kind }) => kind === 'step')) return [];
  return [
    {
      kind: last.step.kind,
      settings: last.step.settings,
      says: '',
      ...effectOn(sight, layers[at - 1].sheet, { sheet, held: held.rows, leftOut: leftOut.columns, overwritten }),
    },
  ];
}
