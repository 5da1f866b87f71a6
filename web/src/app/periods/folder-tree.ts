import type { TreeNode } from 'primeng/api';
import type { FolderAnswer } from '../../../../server/contract/contract';
import { plural } from '../shared/words';

/** PDF files listed of one folder. */
const mostListed = 100;

/** The folders that are known as a tree from the uppermost on; each says how many PDF files lie directly in it. */
export function folderTree(known: ReadonlyMap<string, FolderAnswer>, unfolded: ReadonlySet<string>): TreeNode[] {
  const below = ({ folders, pdfs, folder }: FolderAnswer): TreeNode[] => [
    ...folders.map((each) => nodeOf(each.path, each.name, each.pdfs)),
    ...pdfs.slice(0, mostListed).map((name) => ({ key: `${folder}/${name}`, label: name, icon: 'pi pi-file', leaf: true, selectable: false })),
    ...(pdfs.length > mostListed ? [{ key: `${folder}/…`, label: `and ${pdfs.length - mostListed} more`, leaf: true, selectable: false }] : []),
  ];
  const nodeOf = (path: string, name: string, pdfs: number): TreeNode => {
    const answer = known.get(path);
    return {
      key: path,
      label: pdfs > 0 ? `${name} · ${plural(pdfs, 'PDF file')}` : name,
      icon: 'pi pi-folder',
      leaf: answer !== undefined && answer.folders.length + answer.pdfs.length === 0,
      expanded: answer !== undefined && unfolded.has(path),
      children: answer ? below(answer) : [],
    };
  };
  const top = [...known.values()].find(({ parent }) => parent === null || !known.has(parent));
  if (!top) return [];
  // Where there are several to begin from, they have no folder above them.
  return top.folder === '' ? below(top) : [nodeOf(top.folder, top.folder, top.pdfs.length)];
}
