import type { PageContent } from '../../core/page/page';
import type { Problem } from '../../core/sheet/problem';
import { openPdf } from './document';
import { pageContent } from './page-content';

/** What comes of one page, the `number`th of `total`: its content, or the problem that kept it from being read. */
export type ReadPage = { readonly number: number; readonly total: number } & ({ readonly page: PageContent } | { readonly problem: Problem });

export interface ReadOptions {
  readonly password?: string;
  /** Page numbers wanted, from 1; all if left out. */
  readonly wanted?: (page: number) => boolean;
}

/**
 * The pages of a PDF file one after the other, as they are read. A page that cannot be read is named; the others come.
 * @returns (at the end) how many pages the file has
 * @throws UnreadableReport when the file as a whole cannot be opened
 */
export async function* streamPages(bytes: Uint8Array, name: string, { password, wanted }: ReadOptions = {}): AsyncGenerator<ReadPage, number> {
  const document = await openPdf(bytes, name, password);
  try {
    const marked = (await document.getMarkInfo().catch(() => null))?.Marked === true;
    const labels = await document.getPageLabels().catch(() => null);
    const total = document.numPages;
    for (let number = 1; number <= total; number++) {
      if (wanted && !wanted(number)) continue;
      try {
        const page = await document.getPage(number);
        const label = labels?.[number - 1];
        const content = await pageContent(page, { marked, ...(label && label !== String(number) ? { label } : {}) });
        page.cleanup();
        yield { number, total, page: content };
      } catch (error) {
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
