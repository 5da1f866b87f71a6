import { describe, expect, it } from 'vitest';
import { parsePipeline, type Pipeline } from '../../../../core/pipeline/document';
import type { ReportSummary, TableFacts } from '../../../../server/contract/contract';
import { alikeEnough, freeRuleName, ruleFor, tableName, withCut, withLabel, withoutLabel, withoutRule, withRule, withTable } from './take-rules';

const document = (...names: string[]): Pipeline => parsePipeline({ format: 'able-sieve/pipeline', version: 1, name: 'P', take: names.map((name) => ({ name, heading: ['Code', 'Boxes'] })) });
const table = (some: Partial<TableFacts>): TableFacts => ({ id: 't1', title: null, heading: 'Code Boxes', headingCells: ['Code', 'Boxes', 'Weight', 'Value'], rows: 3, columns: 4, pieces: [{ id: 'p', page: 4, box: [0, 0, 1, 1], readings: [] }], ...some });
const names = ({ take }: Pipeline) => take.map(({ name }) => name);

describe('a found table', () => {
  it('is called by its title, its heading, or its page', () => {
    expect([table({ title: 'Landings' }), table({}), table({ headingCells: [] })].map(tableName)).toEqual(['Landings', 'Code, Boxes, Weight', 'table on page 4']);
  });

  it('is taken by a rule that knows it by title and heading, under a name that no other has', () => {
    const taken = withTable(withTable(document(), table({ title: 'Landings' })), table({ title: 'Landings' }));
    expect(names(taken)).toEqual(['Landings', 'Landings (2)']);
    expect(taken.take[1]).toMatchObject({ title: 'Landings', heading: ['Code', 'Boxes', 'Weight', 'Value'] });
    expect('title' in withTable(document(), table({})).take[0] && withTable(document(), table({})).take[0].title).toBeFalsy();
    // What is made is a document that can be opened.
    expect(names(parsePipeline(JSON.parse(JSON.stringify(taken))))).toEqual(['Landings', 'Landings (2)']);
  });

  it('take all tables with a heading where several are wanted, whatever stands above each', () => {
    const [rule] = withTable(document(), table({ title: 'Quay: Saltby', headingCells: ['Species', 'Weight'] }), 'all alike').take;
    expect(rule).toMatchObject({ heading: ['Species', 'Weight'], which: 'all alike', least: alikeEnough });
    expect(rule.title).toBeUndefined();
  });

  it('with a name of any length gets one of its own', () => {
    const long = 'x'.repeat(80);
    const free = freeRuleName(document(long), long);
    expect(free).toBe(`${'x'.repeat(76)} (2)`);
    expect(freeRuleName(document(long, free), long)).toBe(`${'x'.repeat(76)} (3)`);
    expect(freeRuleName(document('A'), 'B')).toBe('B');
  });

  it('is known to be taken by the match that has it', () => {
    const summary = { matches: [{ rule: 'A', found: ['t1', 't2'] }, { rule: 'B', found: [] }] } as unknown as ReportSummary;
    expect([ruleFor(summary, 't2'), ruleFor(summary, 't9')]).toEqual(['A', undefined]);
  });
});

describe('a rule', () => {
  it('is changed and left out by its name alone', () => {
    expect(withRule(document('A', 'B'), 'B', { heading: ['Code'] }).take.map(({ heading }) => heading)).toEqual([['Code', 'Boxes'], ['Code']]);
    expect(names(withoutRule(document('A', 'B'), 'A'))).toEqual(['B']);
    expect(withoutRule(document('A'), 'none')).toEqual(document('A'));
  });

  it('is cut in two that together take what it took', () => {
    const cut = withCut(document('A', 'Tern Point'), 'A', { by: 'row', text: 'Tern Point' });
    expect(names(cut)).toEqual(['A', 'Tern Point (2)', 'Tern Point']);
    expect(cut.take.slice(0, 2).map(({ cut: own }) => own)).toEqual([{ by: 'row', text: 'Tern Point', part: 'before' }, { by: 'row', text: 'Tern Point', part: 'from there' }]);
    expect(cut.take[1].heading).toEqual(cut.take[0].heading);
  });
});

describe('values by label', () => {
  const label = (name: string, text = name) => ({ name, label: text, side: 'right' }) as const;

  it('stand in one rule, each name once, and the rule goes with the last of them', () => {
    const one = withLabel(document('A'), label('Week'));
    const two = withLabel(one, label('Total', 'Total boxes'));
    expect(names(two)).toEqual(['A', 'Values by label']);
    expect(two.take[1].labels.map(({ name }) => name)).toEqual(['Week', 'Total']);
    expect(withLabel(two, label('Week', 'Week ending')).take[1].labels).toEqual([label('Total', 'Total boxes'), label('Week', 'Week ending')]);
    expect(withoutLabel(two, label('Week')).take[1].labels).toEqual([label('Total', 'Total boxes')]);
    expect(withoutLabel(one, label('Week'))).toEqual(document('A'));
    expect(withoutLabel(one, label('none'))).toBe(one);
  });
});
