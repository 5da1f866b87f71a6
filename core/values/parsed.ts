import type { Cell } from './cell';

/** A printed text is a value, or does not fit and the reason says what was expected. */
export type Parsed = { readonly value: Cell } | { readonly expected: string };

export const value = (of: Cell): Parsed => ({ value: of });
export const misfit = (expected: string): Parsed => ({ expected });

/** Raised characters are footnote marks; they never belong to a value. */
export function withoutMarks(text: string): string {
  const first = text.charCodeAt(0);
  const last = text.charCodeAt(text.length - 1);
  // Most texts end in a letter or digit and have neither marks nor spaces to lose.
  if (last > 47 && last < 123 && first > 32 && first !== 160 && first < 0x2000) return text;
  return text.replace(/[⁰¹²³⁴⁵⁶⁷⁸⁹⁺⁻⁼⁽⁾ⁿᵃᵇᶜᵈᵉᶠᵍʰʲᵏˡᵐᵒᵖʳˢᵗᵘᵛʷˣʸᶻ*†‡§]+$/u, '').trim();
}
