// The embedded database is the judge of formulas: random ones over random values come out the same here and there.
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { forms } from '../../core/formula/forms';
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

const told = ({ formula, sql, row, ours, theirs }: Case) => `${formula}\n  as ${sql}\n  over ${JSON.stringify(row)}\n  here ${ours}, there ${theirs}`;

describe('formulas', () => {
  it('give what PostgreSQL gives, each function and form often', async () => {
    const cases: Case[] = [];
    for (let n = 0; n < formulas; n++) cases.push(...(await judge.cases(maker.nth(n, 3))));
    // Each function alone, so often that blanks, negative, long and ordinary arguments all come.
    const each = Math.ceil(50 / rows);
    for (const way of functions.filter(judgeable)) for (let n = 0; n < each; n++) cases.push(...(await judge.cases(maker.called(way, 1))));
    for (const name of Object.keys(forms)) for (let n = 0; n < each; n++) cases.push(...(await judge.cases(maker.form(name, 1))));
    expect(cases.length).toBeGreaterThan(2000);
    expect(cases.filter(({ theirs }) => theirs === null || !theirs.startsWith('!')).length / cases.length).toBeGreaterThan(0.8);
    expect(cases.filter(({ sql }) => sql === '').map(told)).toEqual([]);
    expect(cases.filter((one) => !agree(one) && stated(one) === undefined).map(told)).toEqual([]);
    expect(cases.filter((one) => !agree(one)).length / cases.length).toBeLessThan(0.01);
  });
});
