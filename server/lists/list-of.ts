import type { List } from '../../core/sheet/list';

/** A file that cannot be a list, with the sentence that says why. */
export class NotAList extends Error {}

/**
 * A list of the lines of a file, the first being the names of its columns. What is empty is blank.
 * @throws NotAList
 */
export function listOf(name: string, [names = [], ...rows]: readonly (readonly string[])[]): List {
  const headings = names.map((each) => each.trim());
  if (headings.length === 0) throw new NotAList(`${name} is empty. Its first line must be the names of its columns.`);
  const blank = headings.indexOf('');
  if (blank >= 0)
    throw new NotAList(
      `Column ${blank + 1} of ${name} has no name in the first line. Give it one and upload the file again.`,
    );
  const twice = headings.find(
    (each, i) => headings.findIndex((other) => other.toLowerCase() === each.toLowerCase()) < i,
  );
  if (twice !== undefined)
    throw new NotAList(`${name} has two columns named “${twice}”. Name them differently and upload it again.`);
  return {
    name,
    rows: rows.length,
    columns: headings.map((heading, column) => ({
      name: heading,
      type: 'text',
      cells: rows.map((row) => (row[column] === '' ? null : row[column])),
    })),
  };
}
