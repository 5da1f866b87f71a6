// Looks at one report, a file each: the pool knows them from here, by their names alone. They share what came of the steps before.
import type { OrUnreadable } from '../../contract/answers';
import { readable } from '../session';
import { errors as errorsOf } from './errors';
import { evidence as evidenceOf } from './evidence';
import { findCell as cellFound } from './find-cell';
import { layers as layersOf } from './layers';
import { marks as marksOf } from './marks';
import { measure as measureOf } from './measure';
import { offers as offersOf } from './offers';
import { sheet as sheetOf } from './sheet';
import { total as totalOf } from './total';
import { trace as traceOf } from './trace';
import { values as valuesOf } from './values';
import { word as wordOf } from './word';

const look =
  <Task, Answer>(work: (task: Task) => Promise<Answer>) =>
  (task: Task): Promise<OrUnreadable<Answer>> =>
    readable(() => work(task));

export const errors = look(errorsOf);
export const evidence = look(evidenceOf);
export const findCell = look(cellFound);
export const layers = look(layersOf);
export const marks = look(marksOf);
export const measure = look(measureOf);
export const offers = look(offersOf);
export const sheet = look(sheetOf);
export const total = look(totalOf);
export const trace = look(traceOf);
export const values = look(valuesOf);
export const word = look(wordOf);
