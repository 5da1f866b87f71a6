import type { List } from '../../../core/sheet/list';
import { listFromFile } from '../../lists/list-from-file';
import { NotAList } from '../../lists/list-of';

/** The rows of an uploaded file, or why it is no list. */
export async function list({ bytes, name }: { bytes: Uint8Array; name: string }): Promise<List | { refused: string }> {
  try {
    return await listFromFile(bytes, name);
  } catch (error) {
    if (error instanceof NotAList) return { refused: error.message };
    throw error;
  }
}
