import { describe, expect, it } from 'vitest';
import { formatOf, readerOf } from '../../core/values/format';
import { locales } from '../../core/values/locale';
import { plainNumber } from '../../core/values/plain-number';
import { temporaryFolder } from '../testing/folders';
import { openPglite } from './pglite-store';

describe('decimals in the database', () => {
  it('sum over a million printed amounts to the cent', async () => {
    const read = readerOf(formatOf({ type: 'decimal' }), locales['en-GB']);
    const store = await openPglite(await temporaryFolder());
    try {
      await store.script('create table amounts (amount numeric)');
      let cents = 0n;
      for (let batch = 0; batch < 10; batch++) {
        const lines: string[] = [];
        for (let n = 0; n < 100_000; n++) {
          const own = (Math.imul(batch * 100_000 + n + 1, 2_654_435_761) >>> 0) - 1_500_000_000;
          cents += BigInt(own);
          const digits = String(Math.abs(own)).padStart(3, '0');
          const printed = `${digits.slice(0, -2).replace(/\B(?=(\d{3})+$)/g, ',')}.${digits.slice(-2)}`;
          const parsed = read(own < 0 ? `(${printed})` : printed) as { value: number };
          lines.push(plainNumber(parsed.value));
        }
        await store.copyIn('amounts', ['amount'], `${lines.join('\n')}\n`);
      }
      const [{ sum }] = await store.query<{ sum: string }>('select sum(amount)::text as sum from amounts');
      const [whole, part = ''] = sum.split('.');
      expect(BigInt(`${whole}${part.padEnd(2, '0')}`)).toBe(cents);
    } finally {
      await store.close();
    }
  });
});
