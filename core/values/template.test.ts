import { describe, expect, it } from 'vitest';
import { template } from './template';

describe('templates with holes', () => {
  it('take the values of a file name, brackets being optional', () => {
    const name = template('week-{week}[-r{revision}].pdf');
    expect(name.whole('week-34.pdf')).toEqual({ week: '34' });
    expect(name.whole('week-34-r2.pdf')).toEqual({ week: '34', revision: '2' });
    expect(name.whole('notes.txt')).toBeUndefined();
  });

  it('find a value within a line, with where it stands', () => {
    const found = template('Week ending {date}').within('Northreach Harbour Board  week  ending 14 June 2025')!;
    expect(found.values).toEqual({ date: '14 June 2025' });
    const [start, end] = found.spans.date;
    expect('Northreach Harbour Board  week  ending 14 June 2025'.slice(start, end)).toBe('14 June 2025');
  });

  it('take text outside the holes as written, not as a pattern', () => {
    expect(template('a.b ({x})').whole('a.b (7)')).toEqual({ x: '7' });
    expect(template('a.b ({x})').whole('acb (7)')).toBeUndefined();
  });

  it('say what is wrong with a faulty one', () => {
    expect(() => template('week-{}.pdf')).toThrow('has a hole without a name');
    expect(() => template('{a}-{a}')).toThrow('two holes named {a}');
    expect(() => template('week[-{a}')).toThrow('not closed');
  });
});
