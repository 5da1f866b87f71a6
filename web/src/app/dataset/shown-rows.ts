import { map, type Observable } from 'rxjs';
import { conditionFrom, conditionText, isEverything, NoSelection, orderFrom, orderText, type Selection } from '../../../../core/dataset/selection';
import type { DatasetAnswer, DatasetRow } from '../../../../server/contract/contract';
import type { Api, SelectionAsked } from '../api';
import type { GridSource } from '../shared/sheet-grid';

/** A selection as the server is asked for it. */
export const askedFor = ({ where, order }: Selection): SelectionAsked => ({ where: where.map(conditionText), order: orderText(order) });

/** A selection as addresses of files have it; "" for everything. */
export const inAddress = (selection: Selection): string => {
  const { where, order } = askedFor(selection);
  return new URLSearchParams([...where.map((text) => ['where', text]), ...(order === '' ? [] : [['order', order]])]).toString();
};

/** The selection that an address asks for, and what of it cannot be read here: of columns, say, that are not there any more. */
export function fromAddress(where: string | readonly string[] | undefined, order: string | undefined, headings: readonly string[]): { selection: Selection; unread: readonly string[] } {
  const unread: string[] = [];
  const trying = <Of>(text: string, read: () => Of[]): Of[] => {
    try {
      return read();
    } catch (error) {
      if (!(error instanceof NoSelection)) throw error;
      unread.push(text);
      return [];
    }
  };
  const selection = { where: [where ?? []].flat().flatMap((text) => trying(text, () => [conditionFrom(text, headings)])), order: trying(order ?? '', () => orderFrom(order ?? '', headings)) };
  return { selection, unread };
}

/** A row by its number in the dataset, with its report. */
export interface NumberedRow {
  readonly row: number;
  readonly report: number;
}

/** The rows of the dataset that are shown, all or some in an order, for the grid; each knows its number in the dataset. */
export class ShownRows {
  private readonly numbers = new Map<number, NumberedRow>();
  private readonly all: boolean;
  readonly source: GridSource;

  /** @param rows how many are shown @param nameOf a report by its id */
  constructor(api: Api, pipeline: number, answer: DatasetAnswer, selection: Selection, rows: number, nameOf: (report: number) => string) {
    this.all = isEverything(selection);
    const asked = askedFor(selection);
    const told = (window: readonly DatasetRow[], start: number) =>
      window.map((row, i) => {
        this.numbers.set(start + i, { row: row.row, report: row.report });
        return { label: `${nameOf(row.report)} · ${row.page}`, cells: row.cells };
      });
    this.source = {
      rows,
      columns: answer.columns.map(({ heading, type, unit }) => ({ name: heading, type, ...(unit ? { unit } : {}) })),
      measure: (ranges) => api.publishedMeasure(pipeline, ranges, asked),
      find: (text, from, back) => api.publishedFind(pipeline, { text, ...from, back, ...asked }),
      fetch: (start, count) => (this.all ? api.dataset(pipeline, start, count) : api.selectedRows(pipeline, asked, start, count)).pipe(map(({ window }) => told(window, start))),
    };
  }

  /** Number in the dataset of a row shown; undefined where it has not been fetched. */
  rowOf = (shown: number): number | undefined => (this.all ? shown : this.numbers.get(shown)?.row);

  /** Some of the rows shown, in their order. */
  numbered = (start: number, count: number): Observable<NumberedRow[]> => this.source.fetch(start, count).pipe(map((rows) => rows.map((_, i) => this.numbers.get(start + i)!)));
}
