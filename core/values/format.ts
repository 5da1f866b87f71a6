import * as v from 'valibot';
import { dateOrders, dateReader, datetimeReader, timeReader, usualPivot, type DateOrder } from './date';
import { durationReader, durationUnits } from './duration';
import { isOneOf, type Locale } from './locale';
import { asLocale, asReport, markNames, marksOf } from './marks';
import { isNil, numberReader } from './number';
import { misfit, value, withoutMarks, type Parsed } from './parsed';
import { periodReader } from './period';

/** What a column can be read as. A duration becomes a decimal of one unit. */
export const readTypes = [
  'text',
  'integer',
  'decimal',
  'percent',
  'date',
  'time',
  'datetime',
  'duration',
  'period',
  'boolean',
] as const;
export type ReadType = (typeof readTypes)[number];
export const isNumeric = (type: ReadType): boolean => type === 'integer' || type === 'decimal' || type === 'percent';

/** Scales in which numbers are printed, and the power of ten of each. */
export const scales = { 'as printed': 0, hundreds: 2, thousands: 3, millions: 6, billions: 9 } as const;
export type ScaleName = keyof typeof scales;
export const scaleNames = Object.keys(scales) as ScaleName[];

const titled = <Schema extends v.GenericSchema>(title: string, schema: Schema) => v.pipe(schema, v.title(title));

/** How the texts of a column are read, as it is written into the settings. */
export const formatEntries = {
  type: titled('Type', v.picklist(readTypes)),
  /** Marks of numbers, named by an example. */
  marks: titled('Marks', v.optional(v.picklist([...markNames, asReport]), asLocale)),
  /** What a dash means. */
  nil: titled('A dash is', v.optional(v.picklist(['blank', 'zero']), 'blank')),
  /** What dots or a word such as n/a mean. */
  absent: titled('n/a, .. are', v.optional(v.picklist(['blank', 'zero', 'misfit']), 'blank')),
  unit: titled('Unit', v.optional(v.string(), '')),
  scale: titled('Printed in', v.optional(v.picklist(scaleNames), 'as printed')),
  /** Is the scale multiplied into the numbers, or kept beside them as part of their unit? */
  scaleIs: titled('The scale is', v.optional(v.picklist(['applied', 'kept beside']), 'applied')),
  order: titled('Order of dates', v.optional(v.picklist([asLocale, ...dateOrders]), asLocale)),
  pivot: titled(
    'Years to 20xx',
    v.optional(v.pipe(v.number(), v.integer(), v.minValue(0), v.maxValue(99)), usualPivot),
  ),
  durationIn: titled('Durations in', v.optional(v.picklist(durationUnits), 'hours')),
  /** Does a column of periods bring columns of its first and last days? */
  days: titled('First and last day', v.optional(v.boolean(), false)),
  fiscalStart: titled(
    'Fiscal year from month',
    v.optional(v.pipe(v.number(), v.integer(), v.minValue(1), v.maxValue(12)), 4),
  ),
};
const format = v.object(formatEntries);
export type Format = v.InferOutput<typeof format>;
export const formatOf = (settings: v.InferInput<typeof format>): Format => v.parse(format, settings);

/** The reader that a format asks for. Marks that each report tells by itself must be found first, see `own-marks.ts`. */
export function readerOf(format: Format, locale: Locale): (text: string) => Parsed {
  const read = typedReader(format, locale);
  if (['text', 'integer', 'decimal', 'percent'].includes(format.type)) return read;
  // Nothing printed for a date or a time is a blank; zero there means nothing.
  return (text) => (isNil(withoutMarks(text), locale) ? value(null) : read(text));
}

function typedReader(
  { type, marks, nil, absent, unit, scale, scaleIs, order, pivot, durationIn, fiscalStart }: Format,
  locale: Locale,
): (text: string) => Parsed {
  const dates = { order: order === asLocale ? (locale.dateOrder as DateOrder) : order, pivot };
  switch (type) {
    case 'text':
      return value;
    case 'integer':
    case 'decimal':
    case 'percent':
      return numberReader(
        {
          kind: type,
          marks: marksOf(marks === asReport ? asLocale : marks, locale),
          nil,
          absent,
          unit,
          shift: scaleIs === 'applied' ? scales[scale] : 0,
        },
        locale,
      );
    case 'date':
      return dateReader(dates, locale);
    case 'time':
      return timeReader();
    case 'datetime':
      return datetimeReader(dates, locale);
    case 'duration':
      return durationReader(durationIn, locale);
    case 'period':
      return periodReader({ fiscalStart }, locale);
    case 'boolean':
      return booleanReader(locale);
  }
}

function booleanReader(locale: Locale): (text: string) => Parsed {
  const expected = misfit(`${locale.yes[0]} or ${locale.no[0]}`);
  return (text) => {
    const rest = withoutMarks(text);
    if (rest === '') return value(null);
    if (isOneOf(locale.yes, rest) || /^[✓✔☑]$/.test(rest)) return value(true);
    return isOneOf(locale.no, rest) || /^[✗✘☐]$/.test(rest) ? value(false) : expected;
  };
}

/** The unit of a column read so: its own, with the scale that was left beside. */
export const unitOf = ({ type, unit, scale, scaleIs, durationIn }: Format): string =>
  type === 'duration'
    ? durationIn
    : [scale !== 'as printed' && scaleIs === 'kept beside' ? scale : '', unit].filter(Boolean).join(' ');

const words = {
  integer: 'whole number',
  decimal: 'decimal',
  percent: 'percent',
  text: 'text',
  date: 'date',
  time: 'time',
  datetime: 'date and time',
  duration: 'duration',
  period: 'period',
  boolean: 'yes or no',
} satisfies Record<ReadType, string>;

/** The format in words. */
export function describeFormat({ type, marks, nil, absent, unit, scale, scaleIs, order }: Format): string {
  const numeric = isNumeric(type);
  return [
    words[type],
    numeric && marks !== asLocale ? (marks === asReport ? marks : `as ${marks}`) : '',
    numeric && unit ? `in ${unit}` : '',
    numeric && nil === 'zero' ? 'a dash is zero' : '',
    numeric && absent !== 'blank' ? `n/a and .. are ${absent === 'zero' ? 'zero' : 'misfits'}` : '',
    numeric && scale !== 'as printed' ? `${scale} ${scaleIs}` : '',
    (type === 'date' || type === 'datetime') && order !== asLocale ? order.replaceAll(' ', '-') : '',
  ]
    .filter(Boolean)
    .join(', ');
}
