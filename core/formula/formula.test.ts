import fc from 'fast-check';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { formulasPage } from '../testing/formulas-page';
import { results, type Given } from '../testing/formula-results';
import type { Cell } from '../values/cell';
import { formulaOf } from './formula';
import { forms } from './forms';
import { functions } from './functions/all';
import { isFault, parseFormula } from './parse';
import { printFormula } from './print';
import { withColumns } from './rename';
import { windows } from './windows';

const shown = (cell: Cell | string) => (cell === null ? '' : String(cell));
const faultOf = (text: string, given: Given = {}) => {
  const formula = formulaOf(
    text,
    Object.entries(given).map(([name, [type]]) => ({ name, type })),
  );
  if (!isFault(formula)) throw new Error(`${text} is a formula`);
  return formula;
};

describe('the examples of docs/formulas.md', () => {
  it.each([...functions, ...Object.values(forms)].map(({ example }) => example))('%s is %s', (text, result) => {
    const came = results(text);
    expect(typeof came === 'string' ? came : shown(came[0])).toBe(result);
  });

  it('stand on a page that is written from the tables', () => {
    expect(readFileSync(fileURLToPath(new URL('../../docs/formulas.md', import.meta.url)), 'utf8')).toBe(
      formulasPage(),
    );
  });
});

describe('numbers in formulas', () => {
  it('are exact, and never cut to whole ones', () => {
    expect(results('0.1 + 0.2 = 0.3')).toEqual([true]);
    expect(results('7 / 2')).toEqual([3.5]);
    expect(results('"A" * "B"', { A: ['decimal', 1.1, 1e-7, 123456789.12], B: ['decimal', 1.1, 3, 100] })).toEqual([
      1.21, 3e-7, 12345678912,
    ]);
    expect(results('1 / 3 * 3 = 1')).toEqual([false]);
    expect(results('9007199254740993 - 9007199254740992')).toEqual([1]);
  });

  it('are rounded to 15 digits at the end, halves away from zero', () => {
    expect(results('2 / 3')).toEqual([0.666666666666667]);
    expect(results('-2 / 3.0')).toEqual([-0.666666666666667]);
    expect(results('round(2.675, 2)')).toEqual([2.68]);
    expect(results('round(-1250, -2)')).toEqual([-1300]);
  });

  it('add and multiply as whole numbers of their last digit do', () => {
    const cents = fc.integer({ min: -1e9, max: 1e9 });
    fc.assert(
      fc.property(cents, cents, (a, b) => {
        const given: Given = { A: ['decimal', a / 100], B: ['decimal', b / 1000] };
        expect(results('"A" + "B"', given)).toEqual([(a * 10 + b) / 1000]);
        expect(results('"A" - "B"', given)).toEqual([(a * 10 - b) / 1000]);
        expect(results('("A" * "B" * 100000)::text', given)).toEqual([
          expect.stringMatching(new RegExp(`^${BigInt(a) * BigInt(b)}(?:\\.0*)?$`)),
        ]);
      }),
    );
  });

  it('make whole columns of what is whole, whatever the rows', () => {
    const typeOf = (text: string) =>
      (
        formulaOf(text, [
          { name: 'N', type: 'integer' },
          { name: 'D', type: 'decimal' },
        ]) as { type: string }
      ).type;
    expect(
      ['"N" * 2', 'round("D")', "length('a')", "extract(year from date '2025-01-01')", 'coalesce("N", 0)'].map(typeOf),
    ).toEqual(Array(5).fill('integer'));
    expect(['"N" / 2', '"D" * 2', 'round("D", 0)', 'coalesce("N", 0.5)', '"N" + "D"'].map(typeOf)).toEqual(
      Array(5).fill('decimal'),
    );
  });
});

describe('a row without a value', () => {
  const given: Given = {
    Value: ['decimal', 10, 5, { text: 'n/a', expected: 'a decimal number' }, null],
    Boxes: ['integer', 4, 0, 2, 3],
  };

  it('has a misfit with its reason, and the others have theirs', () => {
    expect(results('"Value" / "Boxes"', given)).toEqual([2.5, '? division by zero', '? n/a', null]);
    const formula = formulaOf('"Value" / "Boxes"', [
      { name: 'Value', type: 'decimal' },
      { name: 'Boxes', type: 'integer' },
    ]);
    if (isFault(formula)) throw new Error(formula.says);
    const columns = Object.entries(given).map(([name, [type, ...cells]]) => ({ name, type, cells }));
    const over = formula.over({ length: 4, columns, report: () => null, reportOf: () => '' });
    expect([over(1), over(2)]).toEqual([
      { text: 'division by zero', expected: 'a result of "Value" / "Boxes"' },
      { text: 'n/a', expected: 'a decimal number in “Value”' },
    ]);
  });

  it('is not looked at where another branch holds', () => {
    expect(results('case when "Boxes" = 0 then null else "Value" / "Boxes" end', given)).toEqual([
      2.5,
      null,
      '? n/a',
      null,
    ]);
    expect(results('coalesce("Boxes", "Value")', given)).toEqual([4, 0, 2, 3]);
  });

  it('says of texts that are no numbers or dates what they are', () => {
    expect(results('"T"::numeric', { T: ['text', '1234.5', '1,234', null] })).toEqual([
      1234.5,
      '? “1,234” is no number such as 1234.5',
      null,
    ]);
    expect(results('"T"::date', { T: ['text', '2025-02-29'] })).toEqual(['? no day 2025-02-29']);
    expect(results('to_date("T", \'DD.MM.YYYY\')', { T: ['text', '09.06.2025', '9.6.25'] })).toEqual([
      '2025-06-09',
      '? “9.6.25” does not fit the format “DD.MM.YYYY”',
    ]);
  });
});

describe('what is no formula is refused in a sentence, at its place', () => {
  const given: Given = { Value: ['decimal'], Item: ['text'], Day: ['date'] };
  it.each([
    ['', 'Write a formula: names of columns', ''],
    ['"Value" +', 'The formula is not finished', ''],
    ['Value + 1', 'Value is no value: a column is written in double quotes, as "Value"', 'Value'],
    ['"Value', 'A name begins here and does not end: close it with ".', '"Value'],
    ['[Value] + 1', 'There are no lists in square brackets', '['],
    ['“Value” + 1', 'straight double quotes', '“'],
    ['"Value"; drop table x', 'A formula is one expression', ';'],
    ['select 1', 'asks no table', 'select'],
    ['"Valeu" * 2', 'There is no column "Valeu" here.', '"Valeu"'],
    ['"Item" * 2', 'The sign * does not take a text and a number: it is written numeric * numeric', '"Item" * 2'],
    ['"Value" = \'x\'', 'It should be a number here: “x” is no number', "'x'"],
    ['1 < "Value" < 3', 'Comparisons do not follow one another: put and between them', '<'],
    ['case when "Value" then 1 end', 'A condition is expected here, and this is a number', '"Value"'],
    ["case when true then 1 else 'a' || 'b' end", 'A number and a text cannot be results of one case', "'a' || 'b'"],
    ['nonsense("Value")', 'There is no function nonsense.', 'nonsense("Value")'],
    ['constructor', 'constructor is no value', 'constructor'],
    ['__proto__ + 1', '__proto__ is no value', '__proto__'],
    ['cast(1 as constructor)', 'There is no type constructor', 'constructor'],
    ['constructor("Value")', 'There is no function constructor.', 'constructor("Value")'],
    ['constructor("Value") over ()', 'constructor does not look at other rows', 'constructor("Value") over ()'],
    ['if("Value" > 1, 2, 3)', 'Use case when', 'if("Value" > 1, 2, 3)'],
    ['now()', 'must not hang on when it is worked out', 'now()'],
    ['sum("Value")', 'sum looks at other rows: write sum(…) over (…)', 'sum("Value")'],
    ['lag("Value") over ()', 'lag hangs on the order of the rows', 'lag("Value") over ()'],
    ['sum("Value") over (order by "Day")', 'Rows stay in the order of the report', '"Day"'],
    ['round("Value", 1, 2)', 'it is written round(numeric) or round(number, digits)', 'round("Value", 1, 2)'],
    ['"Day"::numeric', 'A date cannot be turned into numeric: use extract or to_char', '"Day"::numeric'],
    ['"Value"::money2', 'There is no type money2', 'money2'],
    ['report.author', 'Of the report there are report."file name", report.page', 'report.author'],
    ["date '31.3.2025'", 'is no date such as 2025-03-31', "'31.3.2025'"],
    [`${'('.repeat(250)}1${')'.repeat(250)}`, 'too many brackets', '('],
    [`1${' + 1'.repeat(2000)}`, 'The formula is too long', '1'],
    [`1${'+1'.repeat(1500)}`, 'more than 1,000 values in a row', '+'],
    [`${'- '.repeat(300)}1`, 'too many brackets', '-'],
    [`'${'9'.repeat(5000)}'::numeric`, 'is no number', `'${'9'.repeat(5000)}'`],
    ['12abc', 'A number ends before a letter', '12a'],
  ])('%s', (text, says, where) => {
    const fault = faultOf(text, given);
    expect(fault.says).toContain(says);
    expect(text.slice(fault.from, fault.to)).toBe(where);
  });
});

describe('patterns in formulas', () => {
  it('fit what is longest at the first place, in letters of all languages', () => {
    expect(results("regexp_substr('abcd', 'a|abc')")).toEqual(['abc']);
    expect(results("regexp_substr('🐟ab', '^a', 2) is null and regexp_substr('🐟ab', 'a', 2) = 'a'")).toEqual([true]);
    expect(results("'Größe' ~ '^[[:alpha:]]+$' and 'Größe' ~ '^\\w+$'")).toEqual([true]);
    expect(results("regexp_replace('2025-06', '(\\d+)-(\\d+)', '\\2/\\1')")).toEqual(['06/2025']);
  });

  it('that other programs read otherwise are refused, and none takes long', () => {
    for (const pattern of ['(?=a)', 'a+?', '(a)\\1', '\\bword', '(', 'a{2'])
      expect(results(`'aaa' ~ '${pattern}'`)).toEqual([expect.stringMatching(/^\? (?:a pattern with|“)/)]);
    const long = 'a'.repeat(5000);
    expect(results(`"T" ~ '(a+)+$'`, { T: ['text', `${long}!`] })).toEqual([false]);
    expect(results(`"T" like '${'%a'.repeat(40)}b'`, { T: ['text', long] })).toEqual([false]);
  });
});

describe('texts that grow', () => {
  it('are told before they take all memory', () => {
    const grown = (text: string) => results(text, { T: ['text', 'a'.repeat(2000)] });
    for (const text of [
      'replace(replace("T", \'a\', "T"), \'a\', "T")',
      'lpad("T", 2000000)',
      "regexp_replace(replace(\"T\", 'a', 'aaaaaaaaaa'), 'a', \"T\", 'g')",
      `${'"T" || '.repeat(600)}"T"`,
    ])
      expect(grown(text), text.slice(0, 60)).toEqual(['? a text of more than 1,000,000 signs']);
    expect(grown("length(replace(\"T\", 'a', 'aaaaaaaaaaaaaaaaaaaa'))")).toEqual([40_000]);
  });
});

describe('what is worked out of huge numbers', () => {
  it.each<[string, unknown[]]>([
    ['round("Value", -2147483648)', [0]],
    ['round("Value", -400)', [0]],
    ["extract('constructor' from date '2025-01-01')", ['? “constructor” cannot be extracted from a date']],
    [`1${'+1'.repeat(900)}`, [901]],
    ['trunc("Value", -2147483648)', [0]],
  ])('%.60s', (text, came) => expect(results(text, { Value: ['decimal', 12.5] })).toEqual(came));
});

describe('formulas that look at other rows', () => {
  const given: Given = { Quay: ['text', 'S', 'T', 'S', 'S', 'T'], Value: ['decimal', 1, 2, null, 4, 5] };
  const reports = (row: number) => (row < 4 ? 'a' : 'b');
  const over = (text: string) =>
    results(
      text,
      given,
      (field, row) => (field === 'row' ? (row < 4 ? row + 1 : row - 3) : field === 'page' ? 7 : `${reports(row)}.pdf`),
      reports,
    );

  it('see those of their own report only, in its order', () => {
    expect(over('lag("Value") over (order by report.row)')).toEqual([null, 1, 2, null, null]);
    expect(over('lead("Value", 1, 0) over (partition by "Quay" order by report.row)')).toEqual([null, 0, 4, 0, 0]);
    expect(over('sum("Value") over (order by report.row)')).toEqual([1, 3, 3, 7, 5]);
    expect(over('sum("Value") over (partition by "Quay")')).toEqual([5, 2, 5, 5, 5]);
    expect(over('"Value" / sum("Value") over ()')).toEqual([
      0.142857142857143,
      0.285714285714286,
      null,
      0.571428571428571,
      1,
    ]);
    expect(over('row_number() over (partition by "Quay" order by report.row)')).toEqual([1, 1, 2, 3, 1]);
    expect(over('count("Value") over () || \' of \' || count(*) over ()')).toEqual([
      '3 of 4',
      '3 of 4',
      '3 of 4',
      '3 of 4',
      '1 of 1',
    ]);
    expect(over('max("Value") over () - min("Value") over ()')).toEqual([3, 3, 3, 3, 0]);
    expect(over('avg("Value") over (order by report.row)')).toEqual([1, 1.5, 1.5, 2.33333333333333, 5]);
    expect(over('first_value("Quay") over (order by report.row)')).toEqual(['S', 'S', 'S', 'S', 'T']);
  });

  it('have no value where a row that they look at has none', () => {
    const some: Given = { Value: ['decimal', 1, { text: 'x', expected: 'a decimal number' }, 3] };
    expect(results('sum("Value") over (order by report.row)', some)).toEqual([1, '? x', '? x']);
    expect(results('lag("Value") over (order by report.row)', some)).toEqual([null, 1, '? x']);
    expect(results('count(*) over ()', some)).toEqual([3, 3, 3]);
  });

  it('know file, page and row', () => {
    expect(over("report.\"file name\" || ' p. ' || report.page || ' row ' || report.row")).toEqual([
      'a.pdf p. 7 row 1',
      'a.pdf p. 7 row 2',
      'a.pdf p. 7 row 3',
      'a.pdf p. 7 row 4',
      'b.pdf p. 7 row 1',
    ]);
  });

  it('are all written as their help says', () => {
    for (const [name, { written }] of Object.entries(windows)) expect(written.startsWith(`${name}(`), name).toBe(true);
  });
});

describe('formulas as text', () => {
  const trees: [string, string][] = [
    ['1+2*3', '1 + 2 * 3'],
    ['(1+2)*3', '(1 + 2) * 3'],
    ['1-(2-3)', '1 - (2 - 3)'],
    ['((1-2))-3', '1 - 2 - 3'],
    ['-2^2', '- 2 ^ 2'],
    ['-(2^2)', '- (2 ^ 2)'],
    ['NOT "a"=1 AND TRUE', 'not "a" = 1 and true'],
    ['not ("a" and "b")', 'not ("a" and "b")'],
    ["'a'||'b'||1+2", "'a' || 'b' || 1 + 2"],
    ['"a" IS NOT NULL', '"a" is not null'],
    ['("a" = "b") is null', '"a" = "b" is null'],
    ['"a" NOT IN (1,2)', 'not "a" in (1, 2)'],
    ['"a" not between 1 and 2 or "b"', 'not "a" between 1 and 2 or "b"'],
    ['CAST("a" AS numeric(10,2))', '"a"::numeric(10, 2)'],
    ["DATE '2025-01-01' + 1", "'2025-01-01'::date + 1"],
    ['("a"+1)::text', '("a" + 1)::text'],
    ['trim(leading \'0\' from "a")', 'ltrim("a", \'0\')'],
    ['substring("a" from 2)', 'substring("a", 2)'],
    ['case "a" when 1 then 2 end', 'case "a" when 1 then 2 end'],
    ['"a" -- a note\n + /* another */ 1', '"a" + 1'],
    ['"a" is distinct from "b" and true', '"a" is distinct from "b" and true'],
    ['sum("a")over(partition by "b" order by report.row asc)', 'sum("a") over (partition by "b" order by report.row)'],
    ['\'it\'\'s\' = "a""b"', '\'it\'\'s\' = "a""b"'],
    ["\"a\" like 'x!%' escape '!'", "\"a\" like 'x!%' escape '!'"],
    ['"a"::double precision', '"a"::numeric'],
  ];
  it.each(trees)('%s', (text, printed) => {
    const expression = parseFormula(text);
    if (isFault(expression)) throw new Error(expression.says);
    expect(printFormula(expression)).toBe(printed);
    const again = parseFormula(printed);
    expect(isFault(again) ? again.says : printFormula(again)).toBe(printed);
  });

  it('call columns as they are called now, and stay as they are written otherwise', () => {
    const called = (name: string) => (({ Boxes: 'Cases "n"', page: 'p' }) as Record<string, string>)[name];
    expect(withColumns(' "Boxes" *2 -- "Boxes"\n + length(\'"Boxes"\') + report."page" + "Price"', called)).toBe(
      ' "Cases ""n""" *2 -- "Boxes"\n + length(\'"Boxes"\') + report."page" + "Price"',
    );
    expect(withColumns('"Boxes', called)).toBe('"Boxes');
    expect(withColumns('"Boxes" + ', called)).toBe('"Cases ""n""" + ');
  });
});
