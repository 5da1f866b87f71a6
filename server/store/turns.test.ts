import { describe, expect, it } from 'vitest';
import { Turns } from './turns';

const after = <T>(value: T) => new Promise<T>((resolve) => setTimeout(() => resolve(value), 1));

describe('turns', () => {
  it('are taken one at a time, in the order asked for', async () => {
    const turns = new Turns();
    let under = 0;
    const order: number[] = [];
    await Promise.all(
      [1, 2, 3, 4].map((n) =>
        turns.take(async () => {
          expect(++under).toBe(1);
          await after(0);
          under--;
          order.push(n);
        }),
      ),
    );
    expect(order).toEqual([1, 2, 3, 4]);
  });

  it('of those who are patient come after the others, but come', async () => {
    const turns = new Turns();
    const order: string[] = [];
    const take = (name: string, patient: boolean) =>
      turns.take(async () => void order.push(await after(name)), patient);
    await Promise.all([
      take('first', false),
      take('export 1', true),
      take('export 2', true),
      ...Array.from({ length: 20 }, (_, i) => take(`page ${i}`, false)),
    ]);
    expect(order.slice(0, 2)).toEqual(['first', 'page 0']);
    // Not before eight others went by, and not after all of them.
    expect([order.indexOf('export 1'), order.indexOf('export 2')]).toEqual([9, 18]);
  });

  it('go on after one that failed, and tell when nobody waits', async () => {
    const turns = new Turns();
    const failed = turns.take(() => Promise.reject(new Error('no')));
    const thrown = turns.take(() => {
      throw new Error('never');
    });
    let done = 0;
    void turns.take(async () => void (done = await after(1)), true);
    await expect(failed).rejects.toThrow('no');
    await expect(thrown).rejects.toThrow('never');
    await turns.idle();
    expect(done).toBe(1);
  });
});
