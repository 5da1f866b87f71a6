import * as v from 'valibot';
import type { Box } from '../page/box';

const place = v.pipe(v.array(v.number()), v.length(4, 'A place has left, top, right and bottom.'));

/** A picture that the analyst has looked at: it holds no table. Without a report it is any picture at that place, as of a letterhead. */
export const dismissedPicture = v.object({
  box: place,
  report: v.optional(v.string()),
  page: v.optional(v.pipe(v.number(), v.integer(), v.minValue(1))),
});
export type DismissedPicture = v.InferOutput<typeof dismissedPicture>;

/** Two places are the same where no edge is further off, in points: a scanner or writer moves a picture a little. */
const near = 4;

/** Is this picture one that was dismissed? */
export const isDismissed = (
  dismissed: readonly DismissedPicture[],
  { box, report, page }: { readonly box: Box; readonly report: string; readonly page: number },
): boolean =>
  dismissed.some(
    (each) =>
      (each.report === undefined || (each.report === report && each.page === page)) &&
      each.box.every((edge, i) => Math.abs(edge - box[i]) <= near),
  );
