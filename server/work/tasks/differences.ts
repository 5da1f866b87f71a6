import type { Difference, Seen } from '../../../core/drift/difference';
import { differencesOf } from '../../../core/drift/differences';
import { asSeen } from '../../../core/drift/expects';
import type { ReportTraits } from '../../../core/drift/traits';
import { expectingOf } from '../../../core/pipeline/expecting';
import { pipelineFrom } from '../session';

/** A report as it was seen, with what it looks like as JSON. */
export type SeenAsText = Omit<Seen, 'traits'> & { readonly traits: string };

/** What is different about some of the reports seen, and how many of them could be compared: something was taken from them. */
export async function differences({
  document,
  seen,
}: {
  document: string;
  seen: readonly SeenAsText[];
}): Promise<{ differences: Difference[]; compared: number }> {
  const pipeline = await pipelineFrom(document);
  const comparable = seen
    .map((each): Seen => ({ ...each, traits: JSON.parse(each.traits) as ReportTraits }))
    .filter(({ traits }) => traits.tables.length > 0);
  // What the document expects counts until there are reports in the dataset that show it.
  const expected = comparable.some(({ known }) => known) ? [] : asSeen(pipeline.expects ?? []);
  return {
    differences: differencesOf([...expected, ...comparable], expectingOf(pipeline)),
    compared: comparable.length,
  };
}
