import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { oddTypes, planOf, type FolderReport, type KnownPart, type PartInput } from './plan';

const report = (id: number, more: Partial<FolderReport> = {}): FolderReport => ({
  id,
  path: `week-${id}.pdf`,
  sha256: `s${id}`,
  period: `2025-W${id}`,
  standing: 'counts',
  standingOf: null,
  ...more,
});
const keyOf = ({ sha256 }: PartInput) => `key ${sha256}`;
const input = (id: number, sha256 = `s${id}`): PartInput => ({ report: id, path: `week-${id}.pdf`, sha256 });
const part = (id: number, more: Partial<KnownPart> = {}): KnownPart => ({
  id: id * 10,
  report: id,
  key: keyOf(input(id)),
  inputs: [input(id)],
  stale: false,
  ...more,
});
const wholeKey = (inputs: readonly PartInput[]) => inputs.map(keyOf).join();
const wholePart = (...inputs: PartInput[]): KnownPart => ({
  id: 99,
  report: null,
  key: wholeKey(inputs),
  inputs,
  stale: false,
});
const does = (plan: ReturnType<typeof planOf>) => plan.fates.map(({ does: what, report: { id } }) => `${what} ${id}`);

describe('the plan of a refresh', () => {
  it('reuses what is unchanged, carries what is new or changed', () => {
    const plan = planOf({
      reports: [report(1), report(2, { sha256: 'other' }), report(3)],
      parts: [part(1), part(2)],
      keyOf,
    });
    expect(does(plan)).toEqual(['reuse 1', 'carry 2', 'carry 3']);
    expect(plan.fates[1]).toMatchObject({ part: { id: 20 }, last: input(2) });
    expect(plan.fates[2]).not.toHaveProperty('last');
  });

  it('holds two issues back that nothing orders, with what is published of them, and leaves what does not count', () => {
    const undecided = report(1, { standing: 'undecided', standingOf: 'week-1b.pdf' });
    const plan = planOf({
      reports: [
        undecided,
        report(2, { standing: 'gone' }),
        report(3, { standing: 'replaced', standingOf: 'x.pdf' }),
        report(4, { standing: 'not a PDF' }),
      ],
      parts: [part(1)],
      keyOf,
    });
    expect(plan.fates[0]).toMatchObject({
      does: 'hold back',
      part: { id: 10 },
      because: { kind: 'undecided', report: 'week-1.pdf', came: expect.stringContaining('week-1b.pdf') },
    });
    expect(plan.fates.slice(1).map((fate) => fate.does === 'leave' && fate.state)).toEqual([
      'removed',
      'replaced',
      'not a PDF',
    ]);
  });

  it('reuses the rows of all reports only if none of them has changed', () => {
    const known = wholePart(input(1), input(2));
    const same = planOf({ reports: [report(1), report(2)], parts: [known], keyOf, wholeKey });
    expect([does(same), same.whole?.id]).toEqual([['reuse 1', 'reuse 2'], 99]);
    const changed = planOf({ reports: [report(1), report(2, { sha256: 'other' })], parts: [known], keyOf, wholeKey });
    expect([does(changed), changed.whole]).toEqual([['carry 1', 'carry 2'], undefined]);
    expect(changed.fates[1]).toMatchObject({ last: input(2) });
  });

  it('counts an undecided report as it was, where all reports are needed', () => {
    const known = wholePart(input(1, 'before'), input(2));
    const plan = planOf({
      reports: [report(1, { standing: 'undecided', standingOf: 'x.pdf' }), report(2)],
      parts: [known],
      keyOf,
      wholeKey,
    });
    expect([does(plan), plan.whole?.id]).toEqual([['hold back 1', 'reuse 2'], 99]);
  });

  it('says of every file what is done about it, and never drops what is published in silence', () => {
    const standings = fc.constantFrom('counts', 'undecided', 'replaced', 'a copy', 'set aside', 'not a PDF', 'gone');
    fc.assert(
      fc.property(
        fc.array(fc.record({ standing: standings, changed: fc.boolean(), known: fc.boolean() }), { maxLength: 8 }),
        fc.boolean(),
        (files, whole) => {
          const reports = files.map(({ standing, changed }, id) =>
            report(id, { standing, standingOf: 'x.pdf', ...(changed ? { sha256: `new ${id}` } : {}) }),
          );
          const inputs = files.flatMap(({ known }, id) => (known ? [input(id)] : []));
          const parts = whole ? [wholePart(...inputs)] : inputs.map((each) => part(each.report));
          const { fates } = planOf({ reports, parts, keyOf, ...(whole ? { wholeKey } : {}) });
          expect(fates.map((fate) => fate.report)).toEqual(reports);
          fates.forEach((fate, id) => {
            const { standing, known, changed } = files[id];
            if (standing !== 'counts' && standing !== 'undecided') return expect(fate.does).toBe('leave');
            if (fate.does === 'reuse') return expect([known || whole, changed]).toEqual([true, false]);
            if (known) expect(fate).toMatchObject({ last: input(id) });
          });
        },
      ),
    );
  });
});

describe('one type for one column', () => {
  it('names the column in which a report differs from most', () => {
    const typed = (type: string) => ({ columns: [{ heading: 'Boxes', type }] });
    const odd = oddTypes([typed('integer'), typed('integer'), typed('text')]);
    expect([odd(typed('integer')), odd(typed('text'))]).toEqual([
      undefined,
      { heading: 'Boxes', usual: 'integer', type: 'text' },
    ]);
  });
});
