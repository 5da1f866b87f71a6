import type { Cell } from '../values/cell';
import type { Column } from './column';

/** A table that is no part of a report, in which steps look values up: an uploaded file, or a published dataset as it was at a time. */
export interface List {
  readonly name: string;
  readonly columns: readonly (Pick<Column, 'name' | 'type' | 'unit'> & { readonly cells: readonly Cell[] })[];
  readonly rows: number;
}

/** Which list is meant: a file that was uploaded, or the dataset of another pipeline, by name. */
export interface ListSource {
  readonly is: 'file' | 'dataset';
  readonly name: string;
}

/** A list by the version of it that is meant. */
export type Lists = (version: string) => List | undefined;

export const noLists: Lists = () => undefined;
