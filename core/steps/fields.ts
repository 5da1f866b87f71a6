import type { NamedWidget, StepKind } from './step';

interface About {
  readonly name: string;
  readonly title: string;
  readonly help: string;
  /** Shown only while another setting has one of some values. */
  readonly when?: { readonly setting: string; readonly is: readonly string[] };
  /** The value of a new item, or where nothing is set. */
  readonly initial: unknown;
}
type Widget =
  | Exclude<NamedWidget, { readonly widget: 'number' | 'conditions' | 'pairs' }>
  | { readonly widget: 'text' | 'toggle' | 'texts' }
  | { readonly widget: 'number'; readonly zero?: string }
  /** @property options what can be picked */
  | { readonly widget: 'pick'; readonly options: readonly string[] }
  /** @property fields of each item */
  | { readonly widget: 'list'; readonly fields: readonly Field[] }
  | (Extract<NamedWidget, { readonly widget: 'conditions' | 'pairs' }> & { readonly fields: readonly Field[] });

/** A field of the form of a step, worked out from its schema. */
export type Field = About & Widget;

/** What is looked at of a schema: Valibot schemas are plain objects that carry their own description. */
interface Looked {
  readonly type: string;
  readonly pipe?: readonly (Looked & {
    readonly title?: string;
    readonly description?: string;
    readonly metadata?: { readonly named?: NamedWidget; readonly when?: About['when'] };
  })[];
  readonly wrapped?: Looked;
  readonly default?: unknown;
  readonly entries?: Record<string, Looked>;
  readonly item?: Looked;
  readonly options?: readonly unknown[];
}

const humanised = (name: string) =>
  name.charAt(0).toUpperCase() +
  name
    .slice(1)
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();

interface Told {
  readonly title?: string;
  readonly help?: string;
  readonly initial?: unknown;
  readonly named?: NamedWidget;
  readonly when?: About['when'];
}

/** What stands in a schema's pipe; a piped schema that is piped again stands first in the outer pipe. */
const flatPipe = ({ pipe = [] }: Looked): NonNullable<Looked['pipe']> => [
  ...pipe.slice(1),
  ...(pipe[0]?.pipe ? flatPipe(pipe[0]) : pipe.slice(0, 1)),
];

/** The schema below optional wrappers and pipes, and the texts and default met on the way. */
function unwrapped(schema: Looked): { schema: Looked } & Told {
  const told: { -readonly [Key in keyof Told]: Told[Key] } = {};
  let at: Looked = schema;
  for (;;) {
    for (const item of flatPipe(at)) {
      if (item.type === 'title') told.title ??= item.title;
      if (item.type === 'description') told.help ??= item.description;
      if (item.type === 'metadata') {
        told.named ??= item.metadata?.named;
        told.when ??= item.metadata?.when;
      }
    }
    if ((at.type === 'optional' || at.type === 'nullish') && at.wrapped) {
      if (at.default !== undefined) told.initial ??= at.default;
      at = at.wrapped;
    } else return { schema: at, ...told };
  }
}

function fieldOf(name: string, entry: Looked): Field {
  const { schema, title, help, initial, named, when } = unwrapped(entry);
  const about = (otherwise: unknown): About => ({
    name,
    title: title ?? humanised(name),
    help: help ?? '',
    ...(when ? { when } : {}),
    initial: initial ?? otherwise,
  });
  /** Fields of the items of an array of objects. */
  const items = () => fieldsOf(unwrapped(schema.item!).schema.entries ?? {});
  const emptyOf: Record<string, unknown> = {
    columns: { by: 'names', names: [] },
    subject: { is: 'column', name: '' },
    number: 0,
  };
  if (named?.widget === 'conditions' || named?.widget === 'pairs') return { ...about([]), ...named, fields: items() };
  if (named) return { ...about(emptyOf[named.widget] ?? (schema.type === 'array' ? [] : '')), ...named };
  switch (schema.type) {
    case 'number':
      return { ...about(0), widget: 'number' };
    case 'boolean':
      return { ...about(false), widget: 'toggle' };
    case 'picklist':
      return { ...about(schema.options![0]), widget: 'pick', options: schema.options as readonly string[] };
    case 'array':
      return unwrapped(schema.item!).schema.type === 'object'
        ? { ...about([]), widget: 'list', fields: items() }
        : { ...about([]), widget: 'texts' };
    default:
      return { ...about(''), widget: 'text' };
  }
}

const fieldsOf = (entries: Record<string, Looked>): Field[] =>
  Object.entries(entries).map(([name, entry]) => fieldOf(name, entry));

/** The form of a step kind: a field for every setting, in the order of the declaration. */
export const formOf = (kind: StepKind): Field[] => fieldsOf(kind.settings.entries);

/** Settings of a new step of a kind: every field as it begins. */
export const initialSettings = (fields: readonly Field[]): Record<string, unknown> =>
  Object.fromEntries(fields.map((field) => [field.name, structuredClone(field.initial)]));
