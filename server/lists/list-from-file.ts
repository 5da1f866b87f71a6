import type { List } from '../../core/sheet/list';
import { listFromCsv } from './csv-list';

/** Workbooks are packed folders: they begin as these do. */
const isXlsx = (bytes: Uint8Array): boolean =>
  bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4;

/** The rows of a file, CSV or XLSX, told apart by how it begins. What reads workbooks is large, and loaded for one. @throws NotAList */
export const listFromFile = async (bytes: Uint8Array, name: string): Promise<List> =>
  isXlsx(bytes) ? (await import('./xlsx-list')).listFromXlsx(bytes, name) : listFromCsv(bytes, name);
