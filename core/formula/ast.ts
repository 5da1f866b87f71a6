/** Where something stands in the text of a formula: from the first sign to behind the last. */
export interface Span {
  readonly from: number;
  readonly to: number;
}

/** Types that a value can be turned into by name. */
export const castTypes = ['text', 'numeric', 'integer', 'date', 'time', 'timestamp', 'interval', 'boolean'] as const;
export type CastType = (typeof castTypes)[number];

/** What is known of the row beside its columns, as columns of a table named report. */
export const reportFields = ['file name', 'page', 'table title', 'row'] as const;
export type ReportField = (typeof reportFields)[number];

/** Rows that a function looks at beside the own one: all of the report, of a part of it, or those up to the own one. */
export interface Over {
  readonly partitionBy: readonly Expression[];
  /** In the order of the report's rows: up to the own one. */
  readonly ordered: boolean;
}

/** What stands in a formula; operators are calls of their sign. */
export type Expression = Span &
  (
    | { readonly kind: 'number'; readonly text: string }
    | { readonly kind: 'text'; readonly value: string }
    | { readonly kind: 'boolean'; readonly value: boolean }
    | { readonly kind: 'null' }
    | { readonly kind: 'column'; readonly name: string }
    | { readonly kind: 'report'; readonly field: ReportField }
    | { readonly kind: 'call'; readonly name: string; readonly args: readonly Expression[]; readonly over?: Over }
    | {
        readonly kind: 'case';
        readonly of?: Expression;
        readonly whens: readonly (readonly [when: Expression, then: Expression])[];
        readonly otherwise?: Expression;
      }
    | {
        readonly kind: 'cast';
        readonly of: Expression;
        readonly into: CastType;
        readonly digits?: readonly [precision: number, scale: number];
      }
  );

export type Call = Extract<Expression, { kind: 'call' }>;

/** The expressions right inside one, from left to right. */
export function partsOf(of: Expression): readonly Expression[] {
  switch (of.kind) {
    case 'call':
      return of.over ? [...of.args, ...of.over.partitionBy] : of.args;
    case 'case':
      return [...(of.of ? [of.of] : []), ...of.whens.flat(), ...(of.otherwise ? [of.otherwise] : [])];
    case 'cast':
      return [of.of];
    default:
      return [];
  }
}

/** The names of the columns that stand in an expression, each once. */
export const columnsUsedIn = (of: Expression): string[] => [
  ...new Set([...everyPart(of)].flatMap((part) => (part.kind === 'column' ? [part.name] : []))),
];

/** An expression and all that stands in it. */
export function* everyPart(of: Expression): Generator<Expression> {
  yield of;
  for (const part of partsOf(of)) yield* everyPart(part);
}
