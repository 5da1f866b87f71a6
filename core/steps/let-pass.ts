import * as v from 'valibot';
import { cellText } from '../values/cell';
import type { Sheet } from '../sheet/sheet';
import type { Papers } from './step';

/** Rows that a step lets pass though its rule would hold them: those that say a text, in every report or in one. */
export const exception = v.object({
  text: v.pipe(v.string(), v.minLength(1)),
  /** Path of the report below the folder; every report without one. */
  report: v.optional(v.string()),
});
export type Exception = v.InferOutput<typeof exception>;

/** What a row says: its texts with a letter in them, as amounts are others in every report; all of them where none has one. */
export function rowSays(texts: readonly string[]): string {
  const filled = texts.map((text) => text.trim().replace(/\s+/g, ' ')).filter((text) => text !== '');
  const lettered = filled.filter((text) => /\p{L}/u.test(text));
  return (lettered.length > 0 ? lettered : filled).join(' · ');
}

/** The test whether an exception lets a row pass. */
export function lettingPass(exceptions: readonly Exception[], papers: Papers): (sheet: Sheet, row: number) => boolean {
  if (exceptions.length === 0) return () => false;
  const byText = new Map<string, (string | undefined)[]>();
  for (const { text, report } of exceptions)
    byText.set(text.toLowerCase(), [...(byText.get(text.toLowerCase()) ?? []), report]);
  return (sheet, row) => {
    const reports = byText.get(rowSays(sheet.columns.map((column) => cellText(column.cells[row]))).toLowerCase());
    return reports?.some((report) => report === undefined || report === papers(sheet.rows.report(row)).path) ?? false;
  };
}
