import type { PageContent } from '../../core/page/page';
import type { Problem } from '../../core/sheet/problem';
import { damageOf, type Damage } from './damage';
import { openPdf, UnreadableReport } from './document';
import { pageContent } from './page-content';

/** What comes of one page, the `number`th of `total`: its content, or the problem that kept it from being read. */
export type ReadPage = { readonly number: number; readonly total: number } & (
  { readonly page: PageContent } | { readonly problem: Problem }
);

/** A page that an attempt to read it did not come to an end with. */
export interface SkippedPage {
  readonly page: number;
  /** Such as `no progress was made for 60 s`. */
  readonly because: string;
}

export interface ReadOptions {
  readonly password?: string;
  /** Page numbers wanted, from 1; all if left out. */
  readonly wanted?: (page: number) => boolean;
  /** Pages that are not to be read, and why. */
  readonly skip?: readonly SkippedPage[];
  /** Hears which page is begun; 0: the file as a whole is looked at. */
  readonly begins?: (page: number) => void;
  /** The streams of the file are not checked: for a page to look at. */
  readonly unchecked?: boolean;
}

/**
 * The pages of a PDF file one after the other, as they are read. A page that cannot be read is named; the others come.
 * @returns (at the end) how many pages the file has
 * @throws UnreadableReport when the file as a whole cannot be opened
 */
export async function* streamPages(
  bytes: Uint8Array,
  name: string,
  { password, wanted, skip = [], begins = () => undefined, unchecked = false }: ReadOptions = {},
): AsyncGenerator<ReadPage, number> {
  const document = await openPdf(bytes, name, password);
  try {
    const damage = unchecked ? 'encrypted' : await damageOf(bytes, () => begins(0));
    const marked = (await document.getMarkInfo().catch(() => null))?.Marked === true;
    const labels = await document.getPageLabels().catch(() => null);
    const total = document.numPages;
    if (damage && damage !== 'encrypted' && damage.mostListed > mostListed)
      throw new UnreadableReport({
        kind: 'damaged',
        report: name,
        expected: 'each page listed once',
        came: `one that is listed ${damage.mostListed} times`,
        remedy: 'Ask the sender for the file again.',
      });
    for (const problem of problemsOf(damage, total)) yield { number: problem.page ?? 0, total, problem };
    for (let number = 1; number <= total; number++) {
      if (wanted && !wanted(number)) continue;
      // It would be read for hours; its problem has been told.
      if (damage && damage !== 'encrypted' && damage.endless.has(number)) continue;
      const skipped = skip.find(({ page }) => page === number);
      if (skipped) {
        yield {
          number,
          total,
          problem: {
            kind: 'damaged',
            page: number,
            expected: 'a page that can be read',
            came: `one that was given up, as ${skipped.because}`,
            remedy:
              'It was skipped; the other pages were read. Ask the sender for the file again, or start the server with more --patience.',
          },
        };
        continue;
      }
      begins(number);
      try {
        const page = await document.getPage(number);
        const label = labels?.[number - 1];
        const content = await pageContent(page, { marked, ...(label && label !== String(number) ? { label } : {}) });
        page.cleanup();
        yield { number, total, page: content };
      } catch (error) {
        // Where its streams are known to be damaged, that has been told.
        if (damage && damage !== 'encrypted' && damage.pages.has(number)) continue;
        yield {
          number,
          total,
          problem: {
            kind: 'damaged',
            page: number,
            expected: 'a page that can be read',
            came: `a damaged one (${(error as Error).message.replace(/\s+/g, ' ').slice(0, 120)})`,
            remedy: 'Ask the sender for the file again; the other pages were read.',
          },
        };
      }
    }
    return total;
  } finally {
    await document.loadingTask.destroy();
  }
}

/** A page may be listed again, as blank ones are; not as often as this. */
const mostListed = 200;

/** What a file says of itself that is not so: of its pages, or of the whole. */
function problemsOf(damage: Damage | 'encrypted' | undefined, total: number): Problem[] {
  if (damage === 'encrypted') return [];
  const whole = (came: string): Problem => ({
    kind: 'damaged',
    expected: 'a file that is whole',
    came,
    remedy: 'Rows may be missing without a trace. Ask the sender for the file again.',
  });
  if (!damage) return [whole('one whose parts cannot be told apart')];
  return [
    ...(damage.objects ? [whole('one whose list of its own parts is damaged')] : []),
    ...(damage.pageCount === total
      ? []
      : [whole(`one that lists ${damage.pageCount} pages, of which ${total} can be found`)]),
    ...[...damage.endless].map((page): Problem => ({
      kind: 'damaged',
      page,
      expected: 'a page that comes to an end',
      came: 'one whose states or forms are nested far beyond what a page needs',
      remedy: 'It was not read; the other pages were. Ask the sender for the file again.',
    })),
    ...[...damage.pages].map(([page, doubts]): Problem => ({
      kind: 'damaged',
      page,
      expected: 'a page that is as it was written',
      came: `one in which ${[...doubts].join(' and ')} ${doubts.size === 1 ? 'is' : 'are'} damaged`,
      remedy: 'Rows may be missing or wrong there. Ask the sender for the file again.',
    })),
  ];
}

export interface ReadPages {
  readonly pageCount: number;
  readonly pages: readonly PageContent[];
  readonly problems: readonly Problem[];
}

/** All pages of a file at once. @throws UnreadableReport */
export async function readPages(bytes: Uint8Array, name: string, options: ReadOptions = {}): Promise<ReadPages> {
  const pages: PageContent[] = [];
  const problems: Problem[] = [];
  const stream = streamPages(bytes, name, options);
  for (;;) {
    const next = await stream.next();
    if (next.done) return { pageCount: next.value, pages, problems };
    if ('page' in next.value) pages.push(next.value.page);
    else problems.push(next.value.problem);
  }
}
