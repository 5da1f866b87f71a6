import * as v from 'valibot';

const box = v.tuple([v.number(), v.number(), v.number(), v.number()]);
const row = v.object({ table: v.string(), ordinal: v.number(), nth: v.number() });

/** A printed total beside what the rows say. */
const tie = v.object({
  step: v.string(),
  label: v.string(),
  column: v.string(),
  page: v.number(),
  printed: v.number(),
  computed: v.optional(v.number()),
  rows: v.number(),
  outcome: v.string(),
  accepted: v.optional(v.string()),
  because: v.optional(v.string()),
});

/** Where a published figure comes from, so that it can be checked later against the files. */
export const evidence = v.object({
  format: v.literal('able-sieve/evidence'),
  version: v.literal(1),
  pipeline: v.object({ name: v.string(), version: v.number(), document: v.unknown() }),
  publishedAt: v.string(),
  /** The reading that found the tables, as the build calls it; programs before counted theirs. */
  reader: v.union([v.number(), v.string()]),
  /** A cell of the dataset, or a printed total and what its rows give. */
  figure: v.variant('kind', [
    v.object({
      kind: v.literal('cell'),
      column: v.string(),
      text: v.string(),
      row,
      beside: v.array(v.object({ column: v.string(), text: v.string() })),
    }),
    v.object({
      kind: v.literal('total'),
      row: v.object({ table: v.string(), ordinal: v.number() }),
      tie,
      covers: v.array(v.object({ label: v.string(), amount: v.string(), page: v.number() })),
      more: v.number(),
    }),
  ]),
  file: v.object({ path: v.string(), sha256: v.string(), period: v.nullable(v.string()) }),
  /** The words behind it, in points from the top left of their page. */
  print: v.array(v.object({ page: v.number(), box, words: v.array(v.object({ text: v.string(), box })) })),
  /** What the value was after each step that changed it; `whole`: a step over all reports. */
  passed: v.array(
    v.object({ title: v.string(), column: v.string(), text: v.string(), whole: v.optional(v.boolean()) }),
  ),
  /** Rows that stood near it on paper and were held. */
  held: v.array(v.object({ title: v.string(), reason: v.string(), page: v.number(), text: v.string() })),
  corrections: v.array(v.object({ title: v.string(), column: v.string(), old: v.string(), why: v.string() })),
  ties: v.array(tie),
});
export type Evidence = v.InferOutput<typeof evidence>;

/** The element of a slip that holds its evidence, as JSON. */
const element = 'evidence';
const opening = `<script type="application/json" id="${element}">`;

/** JSON that may stand inside a script element: nothing in it ends the element. */
export const embedded = (of: Evidence): string => `${opening}${JSON.stringify(of).replaceAll('<', '\\u003c')}</script>`;

/** The evidence of a slip. @throws Error saying what is wrong with the file, v.ValiError where fields are missing */
export function evidenceIn(html: string): Evidence {
  const from = html.indexOf(opening);
  const to = from < 0 ? -1 : html.indexOf('</script>', from);
  if (to < 0) throw new Error('It is no evidence slip of Able Sieve: no evidence stands in it.');
  let parsed: unknown;
  try {
    parsed = JSON.parse(html.slice(from + opening.length, to));
  } catch {
    throw new Error('The evidence in the slip is damaged and cannot be read.');
  }
  return v.parse(evidence, parsed);
}
