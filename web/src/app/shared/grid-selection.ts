import { computed, signal } from '@angular/core';
import type { CellRange } from '../../../../server/contract/contract';
import type { GridCellPlace } from './grid-source';

/** How a place joins what is selected: alone, as the other end of the last range, or beside it. */
export type Joining = 'alone' | 'reaching' | 'beside';

export const joiningBy = ({ shiftKey, ctrlKey, metaKey }: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }): Joining => (shiftKey ? 'reaching' : ctrlKey || metaKey ? 'beside' : 'alone');

type Kind = 'cells' | 'columns' | 'rows';
const span = (a: number, b: number) => [Math.min(a, b), Math.max(a, b)] as const;

/** The cells of a grid that are selected, as ranges, and where the keyboard is: row -1 is the heading. */
export class GridSelection {
  readonly ranges = signal<readonly CellRange[]>([]);
  readonly focus = signal<GridCellPlace | undefined>(undefined);
  private anchor: GridCellPlace = { row: 0, column: 0 };
  private kind: Kind = 'cells';

  /** @param size of the grid that is looked at */
  constructor(private readonly size: () => { readonly rows: number; readonly columns: number }) {}

  /** The columns that are selected whole. */
  readonly columns = computed(() => {
    const { rows } = this.size();
    const whole = this.ranges().filter((range) => rows > 0 && range.rows[0] === 0 && range.rows[1] === rows - 1);
    return [...new Set(whole.flatMap(({ columns: [from, to] }) => Array.from({ length: to - from + 1 }, (_, i) => from + i)))].sort((a, b) => a - b);
  });
  /** Is more selected than one cell? */
  readonly several = computed(() => this.ranges().length > 1 || this.ranges().some(({ rows, columns }) => rows[1] > rows[0] || columns[1] > columns[0]));

  has = (row: number, column: number): boolean => this.ranges().some((range) => row >= range.rows[0] && row <= range.rows[1] && column >= range.columns[0] && column <= range.columns[1]);

  cell = (place: GridCellPlace, how: Joining = 'alone') => this.select('cells', place, how);
  column = (column: number, how: Joining = 'alone') => this.select('columns', { row: -1, column }, how);
  row = (row: number, how: Joining = 'alone') => this.select('rows', { row, column: 0 }, how);
  all() {
    this.select('columns', { row: -1, column: 0 }, 'alone');
    this.select('columns', { row: -1, column: this.size().columns - 1 }, 'reaching');
  }
  clear() {
    this.ranges.set([]);
  }

  private select(kind: Kind, place: GridCellPlace, how: Joining) {
    const { rows, columns } = this.size();
    if (rows === 0 || columns === 0) return;
    const reaches = how === 'reaching' && this.ranges().length > 0;
    if (!reaches) {
      this.anchor = place;
      this.kind = kind;
    }
    const [from, to] = [this.anchor, place];
    const range: CellRange = {
      rows: this.kind === 'columns' ? [0, rows - 1] : span(Math.max(0, from.row), Math.max(0, to.row)),
      columns: this.kind === 'rows' ? [0, columns - 1] : span(from.column, to.column),
    };
    this.ranges.update((ranges) => (how === 'alone' ? [range] : reaches ? [...ranges.slice(0, -1), range] : [...ranges, range]));
    this.focus.set(place);
  }
}
