import type { FolderAnswer } from '../../../../server/contract/contract';
import { folderTree } from './folder-tree';

const answer = (folder: string, parent: string | null, below: readonly string[] = [], pdfs: readonly string[] = []): [string, FolderAnswer] => [
  folder,
  { folder, parent, folders: below.map((name) => ({ name, path: `${folder}/${name}`, pdfs: name === 'full' ? 2 : 0 })), pdfs: [...pdfs] },
];
/** A tree as lines, folders that are unfolded with what is in them. */
const lines = (nodes: ReturnType<typeof folderTree>, depth = 0): string[] => nodes.flatMap((node) => [`${'  '.repeat(depth)}${node.label}${node.selectable === false ? '*' : ''}`, ...(node.expanded ? lines(node.children ?? [], depth + 1) : [])]);

describe('the tree of folders', () => {
  it('goes from the uppermost folder that is known down to what is unfolded', () => {
    const known = new Map([answer('/r/full', '/r', [], ['a.pdf', 'b.pdf']), answer('/r', null, ['bare', 'full'])]);
    expect(lines(folderTree(known, new Set(['/r', '/r/full'])))).toEqual(['/r', '  bare', '  full · 2 PDF files', '    a.pdf*', '    b.pdf*']);
    expect(lines(folderTree(known, new Set(['/r'])))).toEqual(['/r', '  bare', '  full · 2 PDF files']);
  });

  it('begins with all folders that may be read where there are several', () => {
    const roots: [string, FolderAnswer] = ['', { folder: '', parent: null, folders: [{ name: '/one', path: '/one', pdfs: 0 }, { name: '/two', path: '/two', pdfs: 0 }], pdfs: [] }];
    expect(lines(folderTree(new Map([roots, answer('/two', '', ['in'])]), new Set(['/two'])))).toEqual(['/one', '/two', '  in']);
  });

  it('says how many files it does not list', () => {
    const many = Array.from({ length: 103 }, (_, i) => `${i}.pdf`);
    expect(lines(folderTree(new Map([answer('/r', null, [], many)]), new Set(['/r']))).at(-1)).toBe('  and 3 more*');
  });

  it('offers to unfold what has not been looked at yet, and nothing where there is nothing', () => {
    const [top] = folderTree(new Map([answer('/r', null, ['new', 'bare']), answer('/r/bare', '/r')]), new Set(['/r']));
    expect(top.children!.map(({ label, leaf }) => [label, leaf])).toEqual([['new', false], ['bare', true]]);
  });
});
