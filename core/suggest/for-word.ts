import { labelsFor } from '../intake/labels';
import type { PageContent } from '../page/page';
import type { Sheet } from '../sheet/sheet';
import type { Around, PaperLine } from '../steps/step';
import { offer, type Offer } from './for-selection';
import { phrasesIn, templateAround } from './page-headings';

/** What may be wanted of a word on the paper that is in no taken table: its value put beside every row, known by its label or by the line that it stands in. */
export function offersForWord(
  sheet: Sheet,
  { page, lines, word }: { page: PageContent; lines: readonly PaperLine[]; word: number },
  around: Around,
): Offer[] {
  const found: (Offer | undefined)[] = labelsFor(page, word).map(({ label, side, value }) =>
    offer(
      sheet,
      {
        kind: 'stamp',
        settings: { from: 'label', label, side },
        makes: true,
        says: () =>
          `put “${short(value)}” beside every row: what stands ${side === 'right' ? 'beside' : 'under'} “${short(label)}”`,
      },
      around,
    ),
  );
  const line = lines.find(({ words }) => words.includes(word));
  const text = line && phrasesIn(line).find((phrase) => phrase.split(/\s+/).includes(page.words[word].text));
  const written = text === undefined ? undefined : templateAround(text, page.words[word].text);
  if (written)
    found.push(
      offer(
        sheet,
        {
          kind: 'stamp',
          settings: { from: 'page text', template: written.template },
          makes: true,
          says: () =>
            `put ${written.names.map((name) => `{${name}}`).join(' and ')} of “${short(written.template)}” beside every row`,
        },
        around,
      ),
    );
  return found.filter((each) => each !== undefined);
}

const short = (text: string) => (text.length > 34 ? `${text.slice(0, 33)}…` : text);
