import * as v from 'valibot';
import { dropNoise } from '../steps/drop-noise';
import { aroundOf, headingDepth, isNamed, mostCommon, plural, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

const nothing = { dashes: false, pages: false, headings: false, furniture: false };

/** Rows that say nothing: of dashes, page numbers, headings printed again, page furniture; each told by what the step would hold. */
export const noiseRows: Detector = (seen) => {
  const reports = seen.reports.map((report) => ({ around: aroundOf(report), tables: tablesOf(report) }));
  const tables = reports.flatMap((report) => report.tables);
  const named = tables.some(isNamed);
  const depth = named ? 0 : (mostCommon(tables.map(headingDepth)) ?? 0);
  const holds = (settings: Partial<Record<keyof typeof nothing, boolean>>) => {
    const full = v.parse(dropNoise.settings, { ...nothing, ...settings, headingRows: depth });
    return reports.reduce((sum, { around, tables: own }) => own.reduce((count, table) => count + (dropNoise.run(table, full, around).held?.rows.rows.length ?? 0), sum), 0);
  };
  const found = {
    dashes: holds({ dashes: true }),
    pages: holds({ pages: true }),
    headings: named || depth > 0 ? holds({ headings: true }) : 0,
    furniture: holds({ furniture: true }),
  };
  const says = [
    found.dashes > 0 && `${plural(found.dashes, 'row')} of dashes`,
    found.pages > 0 && plural(found.pages, 'page number'),
    found.headings > 0 && `${plural(found.headings, 'row says', 'rows say')} the heading again`,
    found.furniture > 0 && `${plural(found.furniture, 'row')} of page furniture`,
  ].filter((each) => each !== false);
  if (says.length === 0) return [];
  return [{ zone: 'eachTable', kind: 'drop noise', settings: { dashes: found.dashes > 0, pages: found.pages > 0, headings: found.headings > 0, furniture: found.furniture > 0, ...(depth > 0 ? { headingRows: depth } : {}) }, reason: says.join(', ') }];
};
