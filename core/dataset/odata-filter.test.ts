import buildQuery from 'odata-query';
import { describe, expect, it } from 'vitest';
import { NoFilter, parseFilter } from './odata-filter';

const property = (name: string) => ({ is: 'property', name });
const literal = (value: unknown) => ({ is: 'literal', value });
const compare = (left: string, sign: string, value: unknown) => ({
  is: 'compare',
  sign,
  left: property(left),
  right: literal(value),
});

describe('filters of OData', () => {
  it.each<[string, unknown]>([
    ["quay eq 'Saltby'", compare('quay', 'eq', 'Saltby')],
    ["name ne 'O''Hara'", compare('name', 'ne', "O'Hara")],
    ['boxes ge -10.5', compare('boxes', 'ge', -10.5)],
    ['boxes eq null', compare('boxes', 'eq', null)],
    ['landed lt 2025-06-09', compare('landed', 'lt', '2025-06-09')],
    ['seen lt 2025-06-09T14:30:00Z', compare('seen', 'lt', '2025-06-09 14:30:00')],
    ['open', property('open')],
    [
      'a eq 1 and b eq 2 or c eq 3',
      {
        is: 'or',
        left: { is: 'and', left: compare('a', 'eq', 1), right: compare('b', 'eq', 2) },
        right: compare('c', 'eq', 3),
      },
    ],
    [
      'a eq 1 and (b eq 2 or c eq 3)',
      {
        is: 'and',
        left: compare('a', 'eq', 1),
        right: { is: 'or', left: compare('b', 'eq', 2), right: compare('c', 'eq', 3) },
      },
    ],
    ['not (a eq 1)', { is: 'not', of: compare('a', 'eq', 1) }],
    [
      "contains(tolower(name),'cod')",
      { is: 'test', of: 'contains', left: { is: 'call', of: 'tolower', on: property('name') }, right: literal('cod') },
    ],
    [
      "startswith(name,'F') eq false",
      { is: 'not', of: { is: 'test', of: 'startswith', left: property('name'), right: literal('F') } },
    ],
    ["quay in ('A','B')", { is: 'in', left: property('quay'), values: ['A', 'B'] }],
    [
      'year(landed) eq 2025',
      { is: 'compare', sign: 'eq', left: { is: 'call', of: 'year', on: property('landed') }, right: literal(2025) },
    ],
    // A property may be called as a function is.
    ['year eq 2025', compare('year', 'eq', 2025)],
  ])('%s', (text, filter) => expect(parseFilter(text)).toEqual(filter));

  it('as a library writes them are understood', () => {
    const written = decodeURIComponent(
      buildQuery({
        filter: {
          and: [
            { quay: { in: ['Saltby', 'Tern Point'] } },
            { boxes: { ge: 10, lt: 50 } },
            { not: { species: { contains: 'cod' } } },
          ],
        },
      }),
    ).replace('?$filter=', '');
    expect(() => parseFilter(written)).not.toThrow();
  });

  it('that are none say what was expected, and where', () => {
    const refusal = (text: string) => {
      try {
        parseFilter(text);
      } catch (error) {
        expect(error).toBeInstanceOf(NoFilter);
        return (error as Error).message;
      }
      return 'taken';
    };
    expect(refusal('a eq')).toBe('Expected a property or a value at the end.');
    expect(refusal("a like 'x'")).toBe(
      'Expected eq, ne, gt, ge, lt, le or in at 3, got “like”.'.replace(
        'Expected eq, ne, gt, ge, lt, le or in',
        'Expected the end',
      ),
    );
    expect(refusal('a eq 1 b')).toBe('Expected the end at 8, got “b”.');
    expect(refusal('(a eq 1')).toBe('Expected “)” at the end.');
    expect(refusal('a eq ?')).toBe('“?” at 6 is not understood.');
    expect(refusal(`${'('.repeat(100)}a eq 1`)).toBe('Brackets stand more than 60 deep.');
  });
});

describe('moments', () => {
  const given = (text: string) => {
    const parsed = parseFilter(`a ge ${text}`);
    return parsed.is === 'compare' && parsed.right.is === 'literal' ? parsed.right.value : undefined;
  };
  it.each([
    ['2025-06-07', '2025-06-07'],
    ['2025-06-07T00:00:00Z', '2025-06-07 00:00:00'],
    ['2025-06-07T14:05', '2025-06-07 14:05:00'],
    ['2025-06-07T01:30:00+02:00', '2025-06-06 23:30:00'],
    ['2025-12-31T23:30:15-01:00', '2026-01-01 00:30:15'],
    ['2024-02-29T12:00:00.250Z', '2024-02-29 12:00:00.25'],
    ['2024-02-29T12:00:00.000Z', '2024-02-29 12:00:00'],
  ])('%s is %s in UTC', (text, moment) => expect(given(text)).toBe(moment));

  it.each(['2025-13-01T00:00:00Z', '2025-02-29T00:00:00Z', '2025-06-07T24:00:00Z', '2025-06-07T10:00:60Z'])(
    '%s is refused',
    (text) => expect(() => given(text)).toThrow('a moment that there is'),
  );
});
