/** What a column of the published dataset holds, at a glance. */
export interface ColumnCard {
  readonly cells: number;
  readonly blank: number;
  readonly errors: number;
  /** Undefined: more than can be counted one by one. */
  readonly distinct?: number;
  readonly least?: string;
  readonly most?: string;
  /** Of numbers. */
  readonly sum?: string;
  readonly mean?: string;
  /** The values that come most often, each in how many reports. */
  readonly values: readonly { readonly value: string; readonly count: number; readonly reports: number }[];
  /** How numbers spread from the least to the most, in equal steps. */
  readonly spread: readonly { readonly from: number; readonly to: number; readonly count: number }[];
}
