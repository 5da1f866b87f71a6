import { labelledOn } from '../intake/labels';
import { around } from '../page/box';
import { linesOf, textWithStarts } from '../page/lines';
import type { PageContent } from '../page/page';
import type { FoundTable } from '../reading/found-table';
import { phrasesOf } from '../reading/phrases';
import type { Paper, PaperLine } from '../steps/step';

/** White space of so many font sizes parts what stands on one line. */
const widest = 1.5;

function paperLine(page: PageContent, { words, box }: Pick<PaperLine, 'words' | 'box'>): PaperLine {
  const phrases = phrasesOf(page, { words }, widest);
  return {
    words,
    box,
    ...textWithStarts(page.words, words),
    ...(phrases.length > 1
      ? { phrases: phrases.map((each) => ({ ...each, ...textWithStarts(page.words, each.words) })) }
      : {}),
  };
}

/** A report as its steps may ask about it; lines of a page are worked out once. */
export function paperOf(report: { path: string; pages: readonly PageContent[]; tables: readonly FoundTable[] }): Paper {
  const lines = new Map<number, readonly PaperLine[]>();
  return {
    path: report.path,
    pages: report.pages.map((page) => page.number),
    lines(number) {
      let own = lines.get(number);
      if (!own) {
        const page = report.pages.find((p) => p.number === number);
        own = page ? linesOf(page.words).map((line) => paperLine(page, line)) : [];
        lines.set(number, own);
      }
      return own;
    },
    title(id) {
      const piece = report.tables.find((table) => table.id === id)?.pieces[0];
      return piece?.title ? { text: piece.title, page: piece.page, words: piece.titleWords } : undefined;
    },
    pieces: report.tables.flatMap(({ id, pieces }) => pieces.map(({ page, box }) => ({ table: id, page, box }))),
    labelled(number, label, side) {
      const page = report.pages.find((p) => p.number === number);
      return page
        ? labelledOn(page, { label, side }).map(({ text, words, labelWords }) => ({
            text,
            page: number,
            words,
            box: around(labelWords.map((word) => page.words[word].box))!,
          }))
        : [];
    },
  };
}
