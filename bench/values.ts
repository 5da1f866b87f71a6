// Works a million cells out and reads them, against a plain loop over the parser that was chosen, in the same run.
import { random } from '../demo/random';
import { printed } from '../demo/sheet-rows';
import { locales } from '../core/values/locale';
import { readerOf } from '../core/values/format';
import { workOut } from '../core/values/work-out';
import { sized } from './size';

const count = sized(1_000_000);
const draw = random(7);
const months = locales['en-GB'].months;
const columns: Record<string, () => string> = {
  'amounts of two decimals': () => printed(draw.whole(-9_000_000, 90_000_000), 2),
  'whole numbers': () => printed(draw.whole(0, 9_000_000), 0),
  'dates in numbers': () =>
    `${String(draw.whole(1, 28)).padStart(2, '0')}/${String(draw.whole(1, 12)).padStart(2, '0')}/${draw.whole(1990, 2025)}`,
  'dates in words': () => `${draw.whole(1, 28)} ${draw.one(months)} ${draw.whole(1990, 2025)}`,
  'weights with their unit': () => `${printed(draw.whole(0, 9_000_000), 1)} kg`,
};
const locale = locales['en-GB'];
const median = (times: number[]) => [...times].sort((a, b) => a - b)[times.length >> 1];

console.log(`${count.toLocaleString('en-GB')} cells a column, medians of five runs in turn.`);
for (const [name, cell] of Object.entries(columns)) {
  const texts = Array.from({ length: count }, cell);
  const both: number[] = [];
  const plain: number[] = [];
  let says = '';
  for (let run = 0; run < 6; run++) {
    let began = performance.now();
    const out = workOut({ name: 'Column', texts }, locale);
    if (run > 0) both.push(performance.now() - began);
    says = `${out.format.type}${out.format.unit ? ` in ${out.format.unit}` : ''}, ${out.misfits} misfits`;
    const read = readerOf(out.format, locale);
    began = performance.now();
    const values = new Array<unknown>(count);
    for (let i = 0; i < count; i++) {
      const parsed = read(texts[i]);
      values[i] = 'value' in parsed ? parsed.value : null;
    }
    if (run > 0) plain.push(performance.now() - began);
    if (values.some((value, i) => value !== out.values[i]))
      throw new Error(`${name}: worked out other values than the plain loop.`);
  }
  console.log(
    `${name} (${says}): worked out and read in ${Math.round(median(both))} ms, the plain loop ${Math.round(median(plain))} ms: ${(median(both) / median(plain)).toFixed(2)} times.`,
  );
}
