// Every function of formulas, one line a group: the check, completion, help and docs know them from here.
import { dates } from './dates';
import { formats } from './formats';
import type { FormulaFunction } from './function';
import { numbers } from './numbers';
import { patterns } from './patterns';
import { texts } from './texts';

export const functions: readonly FormulaFunction[] = [...numbers, ...texts, ...patterns, ...dates, ...formats];

const byName = new Map<string, FormulaFunction[]>();
for (const each of functions) byName.set(each.name, [...(byName.get(each.name) ?? []), each]);
/** All ways to call a function. */
export const functionsNamed = (name: string): readonly FormulaFunction[] => byName.get(name) ?? [];
