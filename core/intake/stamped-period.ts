import * as v from 'valibot';
import { linesOf, textOf } from '../page/lines';
import type { PageContent } from '../page/page';
import { dateOrders, dateReader, usualPivot } from '../values/date';
import { localeNames, locales } from '../values/locale';
import { periodReader } from '../values/period';
import { template, templateText } from '../values/template';

/** A text on the paper that says the period where the file name tells none: the template's first hole is it. */
export const periodStamp = v.object({ template: templateText, locale: v.optional(v.picklist(localeNames), 'en-GB') });
export type PeriodStamp = v.InferOutput<typeof periodStamp>;

/** The period that a report says on its pages, as ISO text; a date is the day. Undefined where no line fits, or none that says a period. */
export function stampedPeriod(
  pages: readonly PageContent[],
  { template: source, locale: name }: PeriodStamp,
): string | undefined {
  const parts = template(source);
  const [hole] = parts.holes;
  if (hole === undefined) return undefined;
  const locale = locales[name];
  const order = dateOrders.find((each) => each === locale.dateOrder) ?? dateOrders[0];
  const readers = [periodReader({ fiscalStart: 1 }, locale), dateReader({ order, pivot: usualPivot }, locale)];
  for (const page of pages)
    for (const { words } of linesOf(page.words)) {
      const text = parts.within(textOf(page.words, words))?.values[hole];
      if (text === undefined) continue;
      for (const read of readers) {
        const parsed = read(text);
        if ('value' in parsed && typeof parsed.value === 'string') return parsed.value;
      }
    }
  return undefined;
}
