import { offer, offersFor, type Offer, type Selected } from '../../../core/suggest/for-selection';
import { offersForWord } from '../../../core/suggest/for-word';
import { lettingPass } from '../../../core/steps/let-pass';
import { listsIn } from '../../lists/list-files';
import { layersUntil, lookedAt, type Look } from '../session';

/** What the screen asks for: steps that fit a selection or a word on the paper, or what a certain step would do. */
export type OffersOf = { readonly selected: Selected } | { readonly word: { readonly page: number; readonly word: number } } | { readonly kind: string; readonly settings: Record<string, unknown> };

/** Steps that may be wanted below a layer, each with what it would do to the sheet there. */
export async function offers(task: Look & { step?: string | undefined; of: OffersOf }): Promise<{ offers: readonly Offer[] }> {
  const { layers, paper, content } = await lookedAt(task, task.step);
  const layer = layersUntil(layers, task.step).at(-1);
  if (!layer || layer.sheet.rows.length === 0) return { offers: [] };
  const papers = () => paper;
  const around = { papers, lists: listsIn(task.source.cacheFolder), letPass: lettingPass([], papers) };
  const { of } = task;
  if ('kind' in of) {
    const one = offer(layer.sheet, { kind: of.kind, settings: of.settings, says: () => '', makes: true }, around);
    return { offers: one ? [one] : [] };
  }
  if ('word' in of) {
    const page = content.pages.find(({ number }) => number === of.word.page);
    return { offers: page?.words[of.word.word] ? offersForWord(layer.sheet, { page, lines: paper.lines(page.number), word: of.word.word }, around) : [] };
  }
  const { rows, columns } = layer.sheet;
  const { selected } = of;
  if (selected.rows[1] >= rows.length || selected.columns[1] >= columns.length) return { offers: [] };
  return { offers: offersFor(layer.sheet, selected, around, { key: task.source.key, paper }) };
}
