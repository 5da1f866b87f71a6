import * as v from 'valibot';
import { dropNoise, noiseReasons } from '../steps/drop-noise';
import { aroundOf, headingDepth, isNamed, mostCommon, plural, tablesOf } from './sheets-seen';
import type { Detector } from './suggestion';

/** Rows that say nothing: of dashes, page numbers, headings printed again, page furniture; each told by what the step would hold. */
export const noiseRows: Detector = (seen) => {
  const reports = seen.reports.map((report) => ({ around: aroundOf(report), tables: tablesOf(report) }));
  const tables = reports.flatMap((report) => report.tables);
  const named = tables.some(isNamed);
  const depth = named ? 0 : (mostCommon(tables.map(headingDepth)) ?? 0);
  const full = v.parse(dropNoise.settings, {
    dashes: true,
    pages: true,
    headings: named || depth > 0,
    furniture: true,
    headingRows: depth,
  });
  const reasons = reports.flatMap(({ around, tables: own }) =>
    own.flatMap((table) => dropNoise.run(table, full, around).held?.reasons ?? []),
  );
  const held = (reason: string) => reasons.filter((each) => each === reason).length;
  const found = {
    dashes: held(noiseReasons.dashes),
    pages: held(noiseReasons.pages),
    headings: held(noiseReasons.headings),
    furniture: held(noiseReasons.furniture),
  };
  const says = [
    found.dashes > 0 && `${plural(found.dashes, 'row')} of dashes`,
    found.pages > 0 && plural(found.pages, 'page number'),
    found.headings > 0 && `${plural(found.headings, 'row says', 'rows say')} the heading again`,
    found.furniture > 0 && `${plural(found.furniture, 'row')} of page furniture`,
  ].filter((each) => each !== false);
  if (says.length === 0) return [];
  return [
    {
      zone: 'eachTable',
      kind: 'drop noise',
      settings: {
        dashes: found.dashes > 0,
        pages: found.pages > 0,
        headings: found.headings > 0,
        furniture: found.furniture > 0,
        ...(depth > 0 ? { headingRows: depth } : {}),
      },
      reason: says.join(', '),
    },
  ];
};
