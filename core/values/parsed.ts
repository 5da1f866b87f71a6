import type { Cell } from '../sheet/cell';

/** A printed text is a value, or does not fit and the reason says what was expected. */
export type Parsed = { readonly value: Cell } | { readonly expected: string };

export const value = (of: Cell): Parsed => ({ value: of });
export const misfit = (expected: string): Parsed => ({ expected });

/** Raised characters are footnote marks; they never belong to a value. */
export const withoutMarks = (text: string): string => text.replace(/[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁼⁽⁾ⁿᵃᵇᶜᵈᵉᶠᵍʰʲᵏˡᵐᵒᵖʳˢᵗᵘᵛʷˣʸᶻ*†‡§]+$/u, '').trim();
