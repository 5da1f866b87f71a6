import * as v from 'valibot';
import { cellText } from '../sheet/cell';
import { field, hold, step } from './step';

const roles = ['heading', 'section', 'subtotal', 'total', 'note'] as const;

export const dropNoise = step({
  kind: 'drop noise',
  title: 'Drop noise',
  group: 'rows',
  help: 'Holds rows that say nothing: rows of dashes or dots, page numbers, and rows marked with a role.',
  settings: {
    dashes: field(v.optional(v.boolean(), true), 'Rows of dashes'),
    pages: field(v.optional(v.boolean(), true), 'Page numbers', 'Like “Page 3 of 8”.'),
    role: field(v.optional(v.picklist(['none', ...roles]), 'none'), 'Rows marked as'),
  },
  commutesWithAppend: true,
  describe: ({ dashes, pages, role }) => [dashes && 'rows of dashes', pages && 'page numbers', role !== 'none' && `rows marked as ${role}`].filter(Boolean).join(', ') || 'Nothing dropped',
  run: (sheet, { dashes, pages, role }) =>
    hold(sheet, (row, mark) => {
      const text = sheet.columns.map((column) => cellText(column.cells[row])).filter((each) => each !== '').join(' ').trim();
      if (dashes && text !== '' && /^[-–—_=.·\s]+$/.test(text) && /[-–—_=.·]{3}/.test(text.replace(/\s/g, ''))) return 'a row of dashes';
      if (pages && /^(?:page|seite|pagina|página|sida|strona|p\.)\s*\d+(?:\s*(?:of|von|de|di|van|av|z|\/)\s*\d+)?$/i.test(text)) return 'a page number';
      return role !== 'none' && mark.role === role ? `marked as ${role}` : undefined;
    }),
});
