import type { List } from '../../core/sheet/list';
import { listFromCsv } from './csv-list';
import { isXlsx, listFromXlsx } from './xlsx-list';

/** The rows of a file, CSV or XLSX, told apart by how it begins. @throws NotAList */
export const listFromFile = async (bytes: Uint8Array, name: string): Promise<List> => (isXlsx(bytes) ? listFromXlsx(bytes, name) : listFromCsv(bytes, name));
