import * as v from 'valibot';
import { cellText, isBlank, isError, type Cell } from '../values/cell';
import { familyOf, freeNames, type Column } from '../sheet/column';
import { nowhere } from '../sheet/origin';
import type { Problem } from '../sheet/problem';
import { rowsAt, sheet as makeSheet } from '../sheet/sheet';
import { chosen, columnChoice } from './column-choice';
import { between, field, hold, step, when } from './step';

const ways = ['every so many columns', 'headings that come again', 'a parent heading'] as const;

export const stackBlocks = step({
  kind: 'stack blocks',
  title: 'Stack blocks',
  group: 'shape',
  help: 'Blocks of columns printed side by side are put under one another, in the columns of the first.',
  settings: {
    sides: field(columnChoice, 'Belong to all blocks', 'Columns at the left that every block needs, too.'),
    by: field(v.optional(v.picklist(ways), 'headings that come again'), 'Blocks are told by'),
    columns: field(
      when(v.optional(v.pipe(v.number(), v.integer(), v.minValue(1)), 2), 'by', 'every so many columns'),
      'Columns of a block',
    ),
    mark: field(
      when(between(v.optional(v.string(), ' ')), 'by', 'a parent heading'),
      'Parent heading up to',
      'The first of these marks in a heading ends the parent.',
    ),
    into: field(when(v.optional(v.string(), 'Block'), 'by', 'a parent heading'), 'Parent heading into'),
    order: field(v.optional(v.picklist(['row by row', 'block by block']), 'row by row'), 'Order'),
  },
  commutesWithAppend: ({ order }) => order === 'row by row',
  describe: ({ by, columns, into, order }) =>
    `${by === 'every so many columns' ? `Every ${columns} columns` : by === 'a parent heading' ? `By parent heading, into ${into}` : 'Where headings come again'}, ${order}`,
  run(sheet, { sides, by, columns: size, mark, into, order }, around) {
    const { columns: shared, problems } = chosen(sheet, sides);
    if (problems.length > 0) return { sheet, problems };
    const turned = sheet.columns.filter((column) => !shared.includes(column));
    const { names, blocks } =
      by === 'every so many columns'
        ? bySize(turned, size)
        : by === 'a parent heading'
          ? byParent(turned, mark)
          : bySize(turned, periodOf(turned));
    if (blocks.length < 2) return { sheet, problems: [notBlocks(by, turned)] };
    const count = sheet.rows.length * blocks.length;
    const places = Array.from({ length: count }, (_, at) =>
      order === 'row by row' ? Math.floor(at / blocks.length) : at % sheet.rows.length,
    );
    const blockAt = Array.from({ length: count }, (_, at) =>
      order === 'row by row' ? at % blocks.length : Math.floor(at / sheet.rows.length),
    );
    const repeated = rowsAt(makeSheet(shared, sheet.rows), places);
    const free = freeNames(shared);
    const parent: Column[] =
      by === 'a parent heading'
        ? [
            {
              name: free(into || 'Block'),
              type: 'text',
              cells: blockAt.map((block) => blocks[block].parent),
              origins: Int32Array.from(blockAt, (block) =>
                sheet.rows.book.origins.union(blocks[block].columns.flatMap((column) => column?.namedBy ?? [])),
              ),
            },
          ]
        : [];
    const stacked = names.map((name, at): Column => {
      const own = blocks.map((block) => block.columns[at]);
      const there = own.filter((column) => column !== undefined);
      const alike = there.every((column) => familyOf(column) === familyOf(there[0]));
      if (!alike)
        problems.push({
          kind: 'step',
          column: name,
          expected: 'one type and unit in all blocks',
          came: [...new Set(there.map(familyOf))].join(' and '),
          remedy: 'Set the same type in every block, or set it below; it is text until then.',
        });
      const words = sheet.rows.book.origins.union(there.flatMap(({ namedBy }) => namedBy ?? []));
      const type = !alike ? 'text' : there.every((column) => column.type === there[0].type) ? there[0].type : 'decimal';
      const cells = blockAt.map((block, i): Cell => {
        const cell = own[block]?.cells[places[i]] ?? null;
        return alike || cell === null || isError(cell) ? cell : cellText(cell);
      });
      return {
        name: free(name),
        ...(words === nowhere ? {} : { namedBy: words }),
        type,
        ...(alike && there[0].unit !== undefined ? { unit: there[0].unit } : {}),
        cells,
        origins: Int32Array.from(blockAt, (block, i) => own[block]?.origins[places[i]] ?? nowhere),
      };
    });
    const made = makeSheet([...repeated.columns, ...parent, ...stacked], repeated.rows);
    const result = hold(made, around, (row) =>
      stacked.every((column) => isBlank(column.cells[row])) ? 'blank: this block holds nothing here' : undefined,
    );
    return { ...result, added: count - sheet.rows.length, turned: turned.length, problems };
  },
});

/** Blocks of columns, each with its columns in the order of the names that all share; a block may lack some. */
interface Blocks {
  readonly names: readonly string[];
  readonly blocks: readonly { readonly parent: string; readonly columns: readonly (Column | undefined)[] }[];
}

/** A heading without what tells it from one before: a number behind it, or the column that it stands after. */
function bareNames(columns: readonly Column[]): string[] {
  const all = columns.map(({ name }) => name);
  return all.map((name) => {
    const parted = /^(.*?)(?: after .+| \d+)$/.exec(name);
    return parted && all.includes(parted[1]) ? parted[1] : name;
  });
}

/** After how many columns the headings come again; 0: they do not. */
export function periodOf(columns: readonly Column[]): number {
  const names = bareNames(columns);
  for (let period = 1; period <= names.length / 2; period++)
    if (names.length % period === 0 && names.every((name, at) => name === names[at % period])) return period;
  return 0;
}

function bySize(columns: readonly Column[], size: number): Blocks {
  if (size < 1 || size >= columns.length) return { names: [], blocks: [] };
  const block = (n: number) => Array.from({ length: size }, (_, at) => columns[n * size + at] as Column | undefined);
  return {
    names: bareNames(columns).slice(0, size),
    blocks: Array.from({ length: Math.ceil(columns.length / size) }, (_, n) => ({ parent: '', columns: block(n) })),
  };
}

/** Columns whose headings begin alike, up to a mark. */
function byParent(columns: readonly Column[], mark: string): Blocks {
  const parted = columns.map((column) => {
    const at = mark === '' ? -1 : column.name.indexOf(mark);
    return {
      column,
      parent: at < 0 ? '' : column.name.slice(0, at).trim(),
      name: (at < 0 ? column.name : column.name.slice(at + mark.length)).trim(),
    };
  });
  const names = [...new Set(parted.map(({ name }) => name))];
  return {
    names,
    blocks: [...new Set(parted.map(({ parent }) => parent))].map((parent) => ({
      parent,
      columns: names.map((name) => parted.find((each) => each.parent === parent && each.name === name)?.column),
    })),
  };
}

const notBlocks = (by: (typeof ways)[number], columns: readonly Column[]): Problem => ({
  kind: 'step',
  expected: by === 'headings that come again' ? 'headings that come again' : 'at least two blocks of columns',
  came: columns.map(({ name }) => `“${name}”`).join(', ') || 'no column',
  remedy: 'Choose which columns belong to all blocks, or tell the blocks another way.',
});
