import { boldLabels } from './bold-labels';
import { pagesLookedAt, reportSheet } from './sheets-seen';
import { inMost, linesOutside } from './page-headings';
import type { Detector } from './suggestion';

const mostLabels = 6;

/** Values that stand beside a label with a colon, or in bold print, in most reports, and are not the same in all. */
export const labelledValues: Detector = ({ reports }) => {
  if (reports.length === 0) return [];
  const withColon = linesOutside(reports[0], 'taken tables').flatMap(({ text }) =>
    [...text.matchAll(/(?:^|\s)((?:\p{L}[\p{L}\p{N}.'’-]*\s){0,3}\p{L}[\p{L}\p{N}.'’-]*:)(?=\s|$)/gu)].map((match) =>
      match[1].trim(),
    ),
  );
  const known = new Set(reportSheet(reports[0]).columns.map(({ name }) => name.toLowerCase()));
  const labels = [...withColon, ...boldLabels(reports[0]).filter((label) => !withColon.includes(`${label}:`))];
  return [...new Set(labels)]
    .flatMap((label) => {
      const name = label.replace(/[\s:.]+$/, '');
      if (known.has(name.toLowerCase())) return [];
      // A report of several forms has a value on each.
      const own = reports.map(({ carried }) =>
        carried.paper.pages
          .slice(0, pagesLookedAt)
          .flatMap((page) => carried.paper.labelled(page, label, 'right').map(({ text }) => text)),
      );
      const filled = own.filter(({ length }) => length > 0);
      const values = own.flat();
      if (
        filled.length < inMost * reports.length ||
        values.some((value) => value.length > 60 || value.includes(':'.repeat(2)))
      )
        return [];
      if (reports.length > 1 && new Set(values).size === 1) return [];
      // Of a single report it is not known what changes: dates and numbers do.
      if (
        reports.length === 1 &&
        new Set(values).size === 1 &&
        values.some((value) => !/\d/.test(value) || value.split(' ').length > 3)
      )
        return [];
      return [
        {
          zone: 'eachReport' as const,
          kind: 'stamp',
          settings: { from: 'label', label },
          name: `Stamp ${name.toLowerCase()} from the paper`,
          reason: `“${values[0]}” stands beside “${label}”${reports.length > 1 ? `, in ${filled.length} of ${reports.length} reports` : ''}`,
        },
      ];
    })
    .slice(0, mostLabels);
};
