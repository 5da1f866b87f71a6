import type { PDFPageProxy } from 'pdfjs-dist';
import type { TaggedCell, TaggedRow, TaggedTable } from '../../core/page/page';

/** A node of the parser's structure tree: an element with a role, or marked content of the page. */
interface StructureNode {
  readonly role?: string;
  readonly type?: string;
  readonly id?: string;
  readonly children?: readonly StructureNode[];
}

/** The marked-content number in an id such as `p12R_mc3`; content of embedded forms is numbered apart and left out. */
const contentNumber = (id: string | undefined): number | undefined => {
  const match = /^p\d+R_mc(\d+)$/.exec(id ?? '');
  return match ? Number(match[1]) : undefined;
};

function contentOf(node: StructureNode): number[] {
  const own = node.type === 'content' ? contentNumber(node.id) : undefined;
  return [...(own === undefined ? [] : [own]), ...(node.children ?? []).flatMap(contentOf)];
}

/** All elements of these roles below a node, not looking into those found. */
const elements = (node: StructureNode, roles: ReadonlySet<string>): StructureNode[] =>
  (node.children ?? []).flatMap((child) =>
    child.role !== undefined && roles.has(child.role) ? [child] : elements(child, roles),
  );

const holdsTable = (node: StructureNode): boolean => elements(node, new Set(['Table'])).length > 0;

const cellOf = (node: StructureNode): TaggedCell => ({ heading: node.role === 'TH', content: contentOf(node) });
const rowOf = (node: StructureNode): TaggedRow => ({ cells: elements(node, new Set(['TH', 'TD'])).map(cellOf) });

function tablesIn(node: StructureNode): TaggedTable[] {
  return elements(node, new Set(['Table'])).flatMap((table) => {
    // A table that holds tables arranges them; the inner ones are what is printed.
    if (holdsTable(table)) return tablesIn(table);
    const rows = elements(table, new Set(['TR']))
      .map(rowOf)
      .filter((row) => row.cells.length > 0);
    return [{ caption: elements(table, new Set(['Caption'])).flatMap(contentOf), rows }];
  });
}

/** The tables that a page's structure tree tells of (ISO 32000, 14.7 and 14.8.4.3); none where it has no tree. */
export async function taggedTables(page: PDFPageProxy): Promise<TaggedTable[]> {
  const tree = (await page.getStructTree().catch(() => null)) as StructureNode | null;
  return tree ? tablesIn(tree).filter((table) => table.rows.length > 0) : [];
}
