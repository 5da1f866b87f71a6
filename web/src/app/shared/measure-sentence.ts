import type { Measured } from '../../../../server/contract/contract';
import { plural } from './words';

const shown = (value: unknown) => (typeof value === 'number' ? value.toLocaleString('en', { maximumFractionDigits: 15 }) : String(value));

/** What chosen cells hold, in a line. */
export function measureSentence({ cells, blank, misfits, numbers, columns, sum, mean, least, most, unit }: Measured): string {
  const of = unit ? ` ${unit}` : '';
  return [
    plural(cells, 'cell'),
    blank > 0 ? `${blank.toLocaleString('en')} blank` : '',
    misfits > 0 ? plural(misfits, 'misfit') : '',
    numbers > 0 ? plural(numbers, 'number') : '',
    sum === undefined ? (numbers > 0 ? 'not added: of unlike kinds or units' : '') : `sum ${shown(sum)}${of}${columns > 1 ? ` over ${columns} columns` : ''}`,
    mean === undefined ? '' : `mean ${Number(mean.toPrecision(7)).toLocaleString('en', { maximumFractionDigits: 7 })}${of}`,
    least === undefined ? '' : `least ${shown(least)}`,
    most === undefined ? '' : `most ${shown(most)}`,
  ]
    .filter(Boolean)
    .join(', ');
}
