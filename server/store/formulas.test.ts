// The embedded database is the judge of formulas: random ones over random values come out the same here and there.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { forms } from '../../core/formula/forms';
import { quotedText } from '../../core/formula/print';
import { isFault, parseFormula } from '../../core/formula/parse';
import { functions } from '../../core/formula/functions/all';
import { random } from '../../demo/random';
import { agree, Judge, stated, type Case } from '../testing/formula-judge';
import { FormulaMaker, judgeable } from '../testing/formula-maker';

const formulas = 420;
const rows = 5;
const draw = random(2025);
const maker = new FormulaMaker(draw);
let judge: Judge;
beforeAll(async () => {
  judge = await Judge.over(draw, rows, maker);
});
afterAll(() => judge.close());

const told = ({ formula, sql, row, ours, theirs }: Case) =>
  `${formula}\n  as ${sql}\n  over ${JSON.stringify(row)}\n  here ${ours}, there ${theirs}`;

describe('formulas', () => {
  it('give what PostgreSQL gives, each function and form often', async () => {
    const cases: Case[] = [];
    for (let n = 0; n < formulas; n++) cases.push(...(await judge.cases(maker.nth(n, 3))));
    // Each function alone, so often that blanks, negative, long and ordinary arguments all come.
    const each = Math.ceil(50 / rows);
    for (const way of functions.filter(judgeable))
      for (let n = 0; n < each; n++) cases.push(...(await judge.cases(maker.called(way, 1))));
    for (const name of Object.keys(forms))
      for (let n = 0; n < each; n++) cases.push(...(await judge.cases(maker.form(name, 1))));
    expect(cases.length).toBeGreaterThan(2000);
    expect(
      cases.filter(({ theirs }) => theirs === null || !theirs.startsWith('!')).length / cases.length,
    ).toBeGreaterThan(0.8);
    expect(cases.filter(({ sql }) => sql === '').map(told)).toEqual([]);
    expect(cases.filter((one) => !agree(one) && stated(one) === undefined).map(told)).toEqual([]);
    expect(cases.filter((one) => !agree(one)).length / cases.length).toBeLessThan(0.01);
  });

  it.each([
    [
      'numbers',
      '"Value"',
      [
        'FM',
        '9',
        '9',
        '0',
        '99',
        '999',
        '00',
        '9,9',
        '0G0',
        '9.9',
        '0.00',
        '0D9',
        '9999.99',
        'S',
        'MI',
        'PL',
        'SG',
        'PR',
        ' ',
        '"a"',
        '-',
        '.',
        ',',
      ],
      0.2,
    ],
    [
      'moments',
      '"Seen"',
      [
        'YYYY',
        'yyyy',
        'YY',
        'MM',
        'mm',
        'DD',
        'd',
        'DDD',
        'HH24',
        'hh12',
        'MI',
        'ss',
        'MS',
        'US',
        'Q',
        'W',
        'ww',
        'IW',
        'iyyy',
        'ID',
        'CC',
        'Month',
        'MON',
        'dy',
        'Day',
        'FM',
        'fm',
        'AM',
        'p.m.',
        ' ',
        '-',
        '"x"',
        'Y',
        'i',
        'e',
        ':',
      ],
      0.9,
    ],
  ] as const)('write %s by any format as PostgreSQL does, or refuse the format', async (_, column, pieces, least) => {
    const formats = Array.from({ length: 400 }, () =>
      Array.from({ length: draw.whole(1, 7) }, () => draw.one(pieces)).join(''),
    );
    const cases: Case[] = [];
    for (const format of formats) {
      const expression = parseFormula(`to_char(${column}, ${quotedText(format)})`);
      if (isFault(expression)) throw new Error(expression.says);
      cases.push(...(await judge.cases(expression)));
    }
    const written = cases.filter(({ ours }) => !ours?.startsWith('!'));
    expect(written.filter((one) => !agree(one)).map(told)).toEqual([]);
    expect(written.length / cases.length).toBeGreaterThan(least);
  });
});
