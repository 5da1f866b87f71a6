import { quoted, type Session } from './store';

/**
 * The part of a select that gives columns of a pipeline's data table by their headings, as text: `k0`, `k1` and so on; undefined
 * where no column has one of the headings. One heading may stand for columns of several types: at most one of them is filled in a row.
 */
export async function selectedByHeading(
  session: Session,
  pipeline: number,
  headings: readonly string[],
): Promise<string | undefined> {
  const catalogue = await session.query<{ identifier: string; heading: string }>(
    'select identifier, heading from dataset_column where pipeline = $1',
    [pipeline],
  );
  const columns = headings.map((heading) =>
    catalogue.filter((column) => column.heading === heading).map(({ identifier }) => `${quoted(identifier)}::text`),
  );
  return columns.some((own) => own.length === 0)
    ? undefined
    : columns.map((own, i) => `coalesce(${own.join(', ')}) as k${i}`).join(', ');
}
