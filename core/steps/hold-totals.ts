import * as v from 'valibot';
import { cellText } from '../sheet/cell';
import { wildcard } from './column-choice';
import { field, hold, step } from './step';

export const holdTotals = step({
  kind: 'hold totals',
  title: 'Hold totals',
  group: 'rows',
  help: 'Printed totals leave the data and are kept: the dataset must add up to them.',
  settings: {
    wording: field(v.optional(v.array(v.string()), []), 'Wording', 'Texts such as “Total *”; a * stands for any text.'),
    marked: field(v.optional(v.boolean(), true), 'Rows marked as totals'),
    bold: field(v.optional(v.boolean(), false), 'Bold rows with amounts'),
  },
  commutesWithAppend: true,
  describe: ({ wording, marked, bold }) => [wording.length > 0 && wording.join(', '), marked && 'rows marked as totals', bold && 'bold rows with amounts'].filter(Boolean).join('; '),
  run(sheet, { wording, marked, bold }) {
    const patterns = wording.map((text) => ({ text, pattern: wildcard(text) }));
    return hold(
      sheet,
      (row, mark) => {
        const texts = sheet.columns.map((column) => cellText(column.cells[row])).filter((text) => text !== '');
        const said = patterns.find(({ pattern }) => texts.some((text) => pattern.test(text)));
        if (said) return `total by wording “${said.text}”`;
        if (marked && (mark.role === 'total' || mark.role === 'subtotal')) return `marked as ${mark.role}`;
        return bold && mark.bold && texts.some((text) => /\d/.test(text)) ? 'bold row with amounts' : undefined;
      },
      'totals',
    );
  },
});
