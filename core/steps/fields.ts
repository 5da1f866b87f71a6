import { columnChoice } from './column-choice';
import { condition } from './conditions';
import type { NamedWidget, StepKind } from './step';

/** A field of the form of a step, worked out from its schema. */
export interface Field {
  readonly name: string;
  readonly title: string;
  readonly help: string;
  readonly widget: 'number' | 'text' | 'toggle' | 'pick' | 'texts' | 'columns' | 'subject' | 'list' | 'conditions' | NamedWidget;
  /** The setting that says whose values a widget is about, or `column names`. */
  readonly of: string;
  /** Shown only while another setting has one of some values. */
  readonly when?: { readonly setting: string; readonly is: readonly string[] };
  /** What can be picked. */
  readonly options: readonly string[];
  /** Fields of each item of a list. */
  readonly fields: readonly Field[];
  /** The value of a new item, or where nothing is set. */
  readonly initial: unknown;
}

/** What is looked at of a schema: Valibot schemas are plain objects that carry their own description. */
interface Looked {
  readonly type: string;
  readonly pipe?: readonly (Looked & { readonly title?: string; readonly description?: string; readonly metadata?: { readonly widget?: NamedWidget; readonly of?: string; readonly when?: Field['when'] } })[];
  readonly wrapped?: Looked;
  readonly default?: unknown;
  readonly entries?: Record<string, Looked>;
  readonly item?: Looked;
  readonly options?: readonly unknown[];
}

const humanised = (name: string) => name.charAt(0).toUpperCase() + name.slice(1).replace(/([A-Z])/g, ' $1').toLowerCase();

interface Told {
  readonly title?: string;
  readonly help?: string;
  readonly initial?: unknown;
  readonly widget?: NamedWidget;
  readonly of?: string;
  readonly when?: Field['when'];
}

/** What stands in a schema's pipe; a piped schema that is piped again stands first in the outer pipe. */
const flatPipe = ({ pipe = [] }: Looked): NonNullable<Looked['pipe']> => [...pipe.slice(1), ...(pipe[0]?.pipe ? flatPipe(pipe[0]) : pipe.slice(0, 1))];

/** The schema below optional wrappers and pipes, and the texts and default met on the way. */
function unwrapped(schema: Looked): { schema: Looked } & Told {
  const told: { -readonly [Key in keyof Told]: Told[Key] } = {};
  let at: Looked = schema;
  for (;;) {
    for (const item of flatPipe(at)) {
      if (item.type === 'title') told.title ??= item.title;
      if (item.type === 'description') told.help ??= item.description;
      if (item.type === 'metadata') {
        told.widget ??= item.metadata?.widget;
        told.of ??= item.metadata?.of;
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
  const { schema, title, help, initial, widget, of = '', when } = unwrapped(entry);
  const field = (usual: Field['widget'], otherwise: unknown, more: Partial<Field> = {}): Field => ({
    name,
    title: title ?? humanised(name),
    help: help ?? '',
    widget: widget ?? usual,
    of,
    ...(when ? { when } : {}),
    options: [],
    fields: [],
    initial: initial ?? otherwise,
    ...more,
  });
  switch (schema.type) {
    case 'number':
      return field('number', 0);
    case 'boolean':
      return field('toggle', false);
    case 'picklist':
      return field('pick', schema.options![0], { options: schema.options as readonly string[] });
    case 'variant':
      // A piped schema is a copy of the one it began as, which stands first in its pipe.
      return ((schema.pipe?.[0] ?? schema) as unknown) === columnChoice ? field('columns', { by: 'names', names: [] }) : field('subject', { is: 'column', name: '' });
    case 'array': {
      const { schema: item } = unwrapped(schema.item!);
      if (item.type !== 'object') return field('texts', []);
      return field((item as unknown) === condition ? 'conditions' : 'list', [], { fields: fieldsOf(item.entries!) });
    }
    default:
      return field('text', '');
  }
}

const fieldsOf = (entries: Record<string, Looked>): Field[] => Object.entries(entries).map(([name, entry]) => fieldOf(name, entry));

/** The form of a step kind: a field for every setting, in the order of the declaration. */
export const formOf = (kind: StepKind): Field[] => fieldsOf(kind.settings.entries as unknown as Record<string, Looked>);

/** Settings of a new step of a kind: every field as it begins. */
export const initialSettings = (fields: readonly Field[]): Record<string, unknown> => Object.fromEntries(fields.map((field) => [field.name, structuredClone(field.initial)]));

