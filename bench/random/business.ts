import type { Level } from '../../core/reading/levels';
import { figuresOf, goods, months, numberStyles, places, remarks, type Random } from './random-sheet';
import type { Block, Cell, Column, Row, Sheet, Style } from './sheet';

/** What is left open by the sheets below: how they are set. */
export function look(
  r: Random,
  styles: readonly Style[],
): Pick<
  Sheet,
  | 'kind'
  | 'notes'
  | 'style'
  | 'gutter'
  | 'size'
  | 'pitch'
  | 'spreads'
  | 'repeats'
  | 'leaders'
  | 'ruledSpans'
  | 'level'
  | 'levelOfSpans'
> {
  return {
    kind: 'sheet',
    notes: [],
    style: r.one(styles),
    gutter: r.whole(4, 18),
    size: r.one([7, 8, 8.5, 9, 10]),
    pitch: r.one([1.25, 1.4, 1.7, 2.1]),
    spreads: r.chance(0.7),
    repeats: r.chance(0.6),
    leaders: false,
    ruledSpans: false,
    level: r.one<Level>(['top', 'top', 'top', 'top', 'middle', 'middle', 'bottom']),
    levelOfSpans: r.one<Level>(['top', 'middle']),
  };
}

export const left: Column = { side: 'left', headSide: 'left' };
export const right: Column = { side: 'right', headSide: 'right' };
export const wrapping = (measure: number): Column => ({ ...left, measure });
export const headings = (texts: readonly string[], shaded: boolean): Row => ({
  kind: 'heading',
  bold: true,
  shaded,
  cells: texts.map((text) => (text ? { text } : undefined)),
});
export const cell = (text: string): Cell | undefined => (text === '' ? undefined : { text });
export const numbersOf = (r: Random) => r.one(numberStyles.filter(({ thousands }) => thousands !== ' '));
export const money = (r: Random, most = 9000) => figuresOf(numbersOf(r), most, 2, { negative: 0, nil: 0 });
const day = (r: Random, i: number) => `${String(1 + (i % 28)).padStart(2, '0')} ${r.one(months)}`;

/** Movements on an account: texts of several lines, amounts in or out, balances, what is brought and carried forward. */
function statement(r: Random, properties: Set<string>): Sheet {
  properties.add('statement');
  const amount = money(r);
  const valued = r.chance(0.4);
  const shaded = r.chance(0.4);
  const monthly = r.chance(0.3);
  const columns = [left, ...(valued ? [left] : []), wrapping(r.whole(22, 36)), right, right, right];
  const lead = valued ? ['', ''] : [''];
  const only = (label: string): Row => ({
    kind: 'total',
    bold: r.chance(0.6),
    cells: [...lead, label, '', '', amount(r)].map(cell),
  });
  const rows: Row[] = [
    headings(['Date', ...(valued ? ['Value'] : []), 'Details', 'Paid out', 'Paid in', 'Balance'], shaded),
    only('Balance brought forward'),
  ];
  const count = r.chance(0.3) ? r.whole(40, 70) : r.whole(6, 22);
  for (let i = 0; i < count; i++) {
    if (monthly && i % 9 === 0)
      rows.push({
        kind: 'section',
        bold: true,
        cells: columns.map((_, c) => (c === 0 ? { text: `${r.one(months)} 2031` } : undefined)),
      });
    const out = r.chance(0.6);
    const details =
      `${r.one(['Card payment', 'Transfer to', 'Direct debit', 'Salary', 'Cash'])} ${r.one(places)}${r.chance(0.5) ? ` Ref. ${r.whole(10000, 99999)}/${r.whole(10, 99)} ${r.one(['rent and heating', 'invoice paid', ''])}` : ''}`.trim();
    rows.push({
      kind: 'body',
      cells: [
        day(r, i),
        ...(valued ? [day(r, i + 1)] : []),
        details,
        out ? amount(r) : '',
        out ? '' : amount(r),
        r.chance(0.75) ? amount(r) : '',
      ].map(cell),
    });
  }
  rows.push(only(r.one(['Balance carried forward', 'Closing balance'])));
  return {
    ...look(r, ['none', 'rows', 'zebra', 'heading band', 'booktabs', 'grid']),
    title: r.chance(0.4) ? 'Your transactions' : undefined,
    columns,
    headingRows: 1,
    rows,
  };
}

/** What is charged, item by item, and the sums below in the last columns. */
function invoice(r: Random, properties: Set<string>): Sheet {
  properties.add('invoice');
  const amount = money(r);
  const coded = r.chance(0.5);
  const united = r.chance(0.5);
  const columns = [
    left,
    ...(coded ? [left] : []),
    wrapping(r.whole(20, 34)),
    right,
    ...(united ? [left] : []),
    right,
    right,
  ];
  const rows: Row[] = [
    headings(
      ['Pos.', ...(coded ? ['Article'] : []), 'Description', 'Qty', ...(united ? ['Unit'] : []), 'Price', 'Amount'],
      r.chance(0.4),
    ),
  ];
  const count = r.whole(2, 14);
  for (let i = 0; i < count; i++) {
    const details = `${r.one(goods)}${r.chance(0.4) ? ` ${r.one(remarks)}` : ''}`;
    rows.push({
      kind: 'body',
      cells: [
        String(i + 1),
        ...(coded ? [`${r.one(['AX', 'BM'])}-${r.whole(100, 999)}`] : []),
        details,
        String(r.whole(1, 40)),
        ...(united ? [r.one(['pcs', 't', 'h'])] : []),
        amount(r),
        amount(r),
      ].map(cell),
    });
  }
  const last = columns.length - 1;
  const form = look(r, ['none', 'rows', 'grid', 'heading band', 'booktabs', 'upright']);
  // Only rules tell how far a text set to the right reaches.
  const spanned = form.style === 'grid' && r.chance(0.7);
  const at = spanned ? 0 : r.one([2, last - 1]);
  const sums = r.one([['Subtotal', 'VAT 20%', 'Total due'], ['Net', 'Carriage', 'VAT', 'Amount payable'], ['Total']]);
  sums.forEach((label, i) =>
    rows.push({
      kind: 'total',
      bold: i === sums.length - 1,
      ruleAbove: i === 0 || i === sums.length - 1 ? r.one([undefined, 'row', 'figures'] as const) : undefined,
      cells: columns.map((_, c): Cell | undefined =>
        c === at
          ? { text: label, side: 'right', ...(spanned ? { columns: last } : {}) }
          : c === last
            ? { text: amount(r) }
            : undefined,
      ),
    }),
  );
  return { ...form, columns, headingRows: 1, rows };
}

/** A list of things: many columns of short and long texts, cells wrapped in several of them. */
function register(r: Random, properties: Set<string>): Sheet {
  properties.add('register');
  const wide = r.chance(0.5);
  const columns = [
    right,
    left,
    wrapping(r.whole(14, 24)),
    wrapping(r.whole(18, 30)),
    left,
    ...(wide ? [left, right] : []),
  ];
  const rows: Row[] = [
    headings(['No.', 'Code', 'Name', 'Place and use', 'Since', ...(wide ? ['Keeper', 'Value'] : [])], r.chance(0.4)),
  ];
  const amount = money(r);
  const count = r.chance(0.4) ? r.whole(30, 60) : r.whole(5, 18);
  for (let i = 0; i < count; i++)
    rows.push({
      kind: 'body',
      cells: [
        String(i + 1),
        `${r.one(['N', 'E'])}${r.whole(100, 999)}`,
        `${r.one(goods)} ${r.chance(0.4) ? r.one(remarks) : ''}`.trim(),
        `${r.one(places)}, ${r.one(remarks)}`,
        String(r.whole(1998, 2031)),
        ...(wide ? [r.one(['A. Merrow', 'K. Starling']), amount(r)] : []),
      ].map(cell),
    });
  return {
    ...look(r, ['rows', 'grid', 'grid', 'zebra', 'none', 'booktabs']),
    title: r.chance(0.6) ? 'Register of stores' : undefined,
    columns,
    headingRows: 1,
    rows,
    repeats: r.chance(0.8),
  };
}

/** Sums by two labels, the outer one printed once, with a sum for each and one for all. */
function pivot(r: Random, properties: Set<string>): Sheet {
  properties.add('pivot');
  const numbers = numbersOf(r);
  const figures = figuresOf(numbers, r.one([900, 90000]), 0, { negative: 0, nil: 0 });
  const series = r.one([['2029', '2030', '2031'], ['North', 'South', 'Roads', 'Total'], months.slice(0, 6)]);
  const outline = r.chance(0.4);
  const columns = [left, ...(outline ? [] : [left]), ...series.map(() => right)];
  const label = (outer: string, inner: string): (Cell | undefined)[] =>
    outline ? [outer ? { text: outer } : { text: inner, indent: 1 }] : [cell(outer), cell(inner)];
  const above = r.chance(0.5);
  const corner = outline ? ['Row labels'] : ['Harbour', 'Cargo'];
  const rows: Row[] = [
    ...(above
      ? [
          {
            kind: 'heading' as const,
            cells: columns.map((_, c): Cell | undefined =>
              c === 0
                ? { text: 'Sum of tonnes' }
                : c === corner.length
                  ? { text: r.one(['Year', 'Part']), columns: series.length, side: 'left' }
                  : undefined,
            ),
          },
        ]
      : []),
    headings([...corner, ...series], r.chance(0.5)),
  ];
  const headingRows = rows.length;
  for (const outer of r.some(places, r.whole(2, 4))) {
    const inner = r.some(goods, r.whole(2, 4));
    if (outline)
      rows.push({
        kind: 'body',
        bold: true,
        cells: [...label(outer, ''), ...series.map(() => ({ text: figures(r) }))],
      });
    inner.forEach((text, i) =>
      rows.push({
        kind: 'body',
        cells: [
          ...label(!outline && i === 0 ? outer : '', text),
          ...series.map(() => (r.chance(0.1) ? undefined : { text: figures(r) })),
        ],
      }),
    );
    if (!outline && r.chance(0.7))
      rows.push({
        kind: 'total',
        bold: true,
        shaded: r.chance(0.3),
        cells: [{ text: `${outer} total` }, undefined, ...series.map(() => ({ text: figures(r) }))],
      });
  }
  rows.push({
    kind: 'total',
    bold: true,
    cells: [{ text: 'Grand total' }, ...(outline ? [] : [undefined]), ...series.map(() => ({ text: figures(r) }))],
  });
  return { ...look(r, ['none', 'grid', 'heading band', 'rows']), columns, headingRows, rows };
}

/** One list set in two columns of the page, each with the same headings. */
function inTwoColumns(r: Random, properties: Set<string>): Block {
  properties.add('list in two columns');
  const form = look(r, ['none', 'rows', 'zebra', 'grid', 'booktabs']);
  const figures = figuresOf(numbersOf(r), 900, r.one([0, 1, 2]), { negative: 0 });
  const half = (): Sheet => ({
    ...form,
    spreads: true,
    columns: [left, right, right],
    headingRows: 1,
    rows: [
      headings(['Harbour', 'Calls', 'Tonnes'], false),
      ...Array.from({ length: count }, (): Row => ({
        kind: 'body',
        cells: [{ text: r.one(places) }, { text: figures(r) }, { text: figures(r) }],
      })),
    ],
  });
  const count = r.whole(5, 25);
  return { kind: 'beside', left: [half()], right: [half()] };
}

/** A sheet of the kinds that offices send. */
export const businessSheet = (r: Random, properties: Set<string>): Block =>
  r.one([statement, invoice, register, pivot, inTwoColumns])(r, properties);
