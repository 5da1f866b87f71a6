import type { PageContent } from '../../core/page/page';
import type { Problem } from '../../core/sheet/problem';
import { openPdf } from './document';
import { pageContent } from './page-content';

export interface ReadPages {
  readonly pageCount: number;
  readonly pages: readonly PageContent[];
  readonly problems: readonly Problem[];
}

/**
 * Reads pages of a PDF file one after the other. A page that cannot be read is named among the problems; the others come.
 * @param wanted page numbers from 1; all if left out
 * @throws UnreadableReport when the file as a whole cannot be opened
 */
export async function readPages(
  bytes: Uint8Array,
  name: string,
  options: { password?: string; wanted?: (page: number) => boolean; progress?: (done: number, total: number) => void } = {},
): Promise<ReadPages> {
  const document = await openPdf(bytes, name, options.password);
  try {
    const labels = await document.getPageLabels().catch(() => null);
    const pages: PageContent[] = [];
    const problems: Problem[] = [];
    for (let number = 1; number <= document.numPages; number++) {
      if (options.wanted && !options.wanted(number)) continue;
      try {
        const page = await document.getPage(number);
        const label = labels?.[number - 1];
        pages.push(await pageContent(page, label && label !== String(number) ? label : undefined));
        page.cleanup();
      } catch (error) {
        problems.push({
          kind: 'unreadable',
          page: number,
          expected: 'a page that can be read',
          came: `a damaged one (${(error as Error).message.replace(/\s+/g, ' ').slice(0, 120)})`,
          remedy: 'Ask the sender for the file again; the other pages were read.',
        });
      }
      options.progress?.(number, document.numPages);
    }
    return { pageCount: document.numPages, pages, problems };
  } finally {
    await document.loadingTask.destroy();
  }
}
