import type { PageContent } from '../../core/page/page';
import type { FoundTable } from '../../core/reading/found-table';
import type { Problem } from '../../core/sheet/problem';

/** Everything read off one file. */
export interface ReportContent {
  readonly pageCount: number;
  readonly pages: readonly PageContent[];
  readonly tables: readonly FoundTable[];
  readonly problems: readonly Problem[];
}
