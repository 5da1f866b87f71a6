import type { Type } from '@angular/core';
import type { Kind } from '../../../../core/steps/kinds';
import { LookUpForm } from './look-up-form';
import { TypesForm } from './types-form';

/** Kinds whose settings have a form of their own; the others' is made from their schema. */
export const ownForms: Readonly<Partial<Record<Kind, Type<unknown>>>> = { 'set types': TypesForm, 'look up': LookUpForm };

/** Kinds whose forms need room: they stand along the foot of the sheet unless they are wanted in the layer. */
export const wideForms: ReadonlySet<Kind> = new Set<Kind>(['compute column', 'set types', 'sift rows', 'recode', 'rename', 'group labels', 'correct cells', 'unpivot', 'pivot', 'stack blocks', 'summarise', 'lines to records', 'look up']);
