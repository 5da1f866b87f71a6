import type { Level } from '../../core/reading/levels';
import { random } from '../../demo/random';
import type { Cell, Column, Row, Sheet, Side, Style } from './sheet';

export type Random = ReturnType<typeof random>;

export const nouns = [
  'harbour',
  'quay',
  'vessel',
  'berth',
  'cargo',
  'crane',
  'tide',
  'gauge',
  'buoy',
  'pilot',
  'tonnage',
  'lock',
  'basin',
  'dredger',
  'signal',
  'warehouse',
  'ferry',
  'slipway',
  'mooring',
  'channel',
];
const verbs = [
  'records',
  'follows',
  'exceeds',
  'describes',
  'limits',
  'measures',
  'replaces',
  'shows',
  'supports',
  'requires',
];
export const places = [
  'Northreach',
  'Eastwick',
  'Sable Point',
  'Gannet Holm',
  'Marrow Bay',
  'Tern Ness',
  'Old Staithe',
  'Kelder Mouth',
  'Long Strand',
  'Whin Cove',
  'Fairlead',
  'Scaur End',
  'Port of Ullan',
  'Holm',
];
export const goods = [
  'Bulk cement',
  'Timber, sawn',
  'Fertiliser',
  'Road salt',
  'Frozen fish',
  'Steel coil',
  'Grain',
  'Machinery',
  'Containers, 20 ft',
  'Containers, 40 ft',
  'Scrap metal',
  'Peat',
  'Oil and fats',
  'Slate',
];
const lines = [
  'Harbour dues',
  'Pilotage and towage',
  'Wages, salaries and other staff costs',
  'Repairs',
  'Light dues',
  'Interest received',
  'Licences and other',
  'Dredging of the outer basin',
  'Rent of sheds',
  'Insurance, net',
  'Cost of sales',
  'Depreciation',
  'Provision for storm damage',
  'Fuel',
];
export const remarks = [
  'closed for repair until further notice',
  'by order of the harbour master',
  'see note',
  'weighed twice, difference within the margin allowed',
  'held back as the outer gate was shut for two tides and the pilot boat was out of service',
  'moved to the upper yard',
  'paid late',
  'stored dry, not to be mixed with the stock of last year',
  'returned',
];
const headings = [
  'Calls',
  'Tonnes',
  'Dues',
  'Value',
  'Weight (kg)',
  'Change',
  'Share',
  'Budget',
  'Actual',
  'Last year',
  'Hours',
  'Price',
  'Amount',
  'Balance',
  'Vessels',
  'Crew',
  'Depth (m)',
  'Average per call',
  'Days in port',
  'Qty',
];
export const months = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

export function sentence(r: Random): string {
  const part = () =>
    `${r.one(['the', 'a', 'each', 'this', 'its'])} ${r.one(nouns)} ${r.one(verbs)} ${r.one(['the', 'a', 'every'])} ${r.one(nouns)}`;
  const text = r.chance(0.5)
    ? `${part()} when ${part()}`
    : `${part()}, and ${part()} of ${r.whole(2, 90)} ${r.one(nouns)}s`;
  return `${text[0].toUpperCase()}${text.slice(1)}.`;
}

/** How the figures of one column are printed. */
type Figures = (r: Random) => string;

export interface Numbers {
  readonly thousands: string;
  readonly point: string;
  readonly negative: (text: string) => string;
  readonly nil: string;
}

export const numberStyles: readonly Numbers[] = [
  { thousands: ',', point: '.', negative: (t) => `-${t}`, nil: '–' },
  { thousands: ',', point: '.', negative: (t) => `(${t})`, nil: '—' },
  { thousands: '.', point: ',', negative: (t) => `-${t}`, nil: '-' },
  { thousands: ' ', point: ',', negative: (t) => `−${t}`, nil: '–' },
  { thousands: '', point: '.', negative: (t) => `-${t}`, nil: '..' },
];

function grouped(whole: number, mark: string): string {
  return String(whole).replace(/\B(?=(\d{3})+$)/g, mark);
}

export const figuresOf =
  (
    numbers: Numbers,
    most: number,
    decimals: number,
    { negative = 0.1, nil = 0.05, before = '', after = '', uneven = false } = {},
  ): Figures =>
  (r) => {
    if (r.chance(nil)) return numbers.nil;
    const places = uneven ? r.whole(0, 3) : decimals;
    const whole = grouped(r.whole(0, r.chance(0.3) ? Math.min(most, 99) : most), numbers.thousands);
    const text =
      places > 0 ? `${whole}${numbers.point}${String(r.whole(0, 10 ** places - 1)).padStart(places, '0')}` : whole;
    const signed = `${before}${text}${after}`;
    return r.chance(negative) ? numbers.negative(signed) : signed;
  };

interface Kind {
  readonly column: Omit<Column, 'headSide'>;
  readonly heading: string;
  readonly text: (r: Random, row: number) => string;
  readonly amount: boolean;
  readonly property?: string;
}

const textKind = (heading: string, texts: readonly string[]): Kind => ({
  column: { side: 'left' },
  heading,
  text: (r) => r.one(texts),
  amount: false,
});

function amountKind(r: Random, numbers: Numbers): Kind {
  const heading = r.one(headings);
  const side: Side = r.chance(0.8) ? 'right' : r.chance(0.6) ? 'decimal' : 'centre';
  const pick = r.whole(0, 9);
  if (pick === 9) {
    const after = r.one([
      ['-', ''],
      [' CR', ' DR'],
      [' S', ' H'],
      ['+', '-'],
      [' cr', ''],
    ]);
    const figures = figuresOf(numbers, 90000, 2, { negative: 0, nil: 0 });
    return {
      column: { side: 'right' },
      heading,
      text: (own) => `${figures(own)}${own.one(after)}`,
      amount: true,
      property: 'signs after',
    };
  }
  if (pick === 8) return measurementKind(r, heading);
  if (pick === 0)
    return {
      column: { side },
      heading: `${heading} %`,
      text: figuresOf(numbers, 99, 1, { negative: 0.3, after: r.chance(0.5) ? '%' : ' %' }),
      amount: true,
      property: 'percent',
    };
  if (pick === 1)
    return {
      column: { side: 'decimal' },
      heading,
      text: figuresOf(numbers, 900, 2, { uneven: true }),
      amount: true,
      property: 'uneven decimals',
    };
  if (pick === 2)
    return {
      column: { side: 'right' },
      heading,
      text: figuresOf(numbers, 90000, 2, { before: r.one(['$', '€', '£']), negative: 0.05 }),
      amount: true,
      property: 'currency signs',
    };
  if (pick === 3)
    return {
      column: { side: 'right' },
      heading,
      text: figuresOf(numbers, 9, 0, { negative: 0, nil: 0 }),
      amount: true,
      property: 'narrow figures',
    };
  return {
    column: { side },
    heading,
    text: figuresOf(numbers, r.one([900, 90000, 9000000]), r.one([0, 0, 1, 2])),
    amount: true,
  };
}

/** Figures as in reports of measurements: with a spread, a mark of how sure they are, a bound. */
function measurementKind(r: Random, heading: string): Kind {
  const places = r.whole(1, 3);
  const figure = (own: Random, most: number) => (own.whole(0, most * 10 ** places) / 10 ** places).toFixed(places);
  const form = r.one([
    (own: Random) => `${figure(own, 90)} ± ${figure(own, 3)}`,
    (own: Random) => `${figure(own, 5)}${own.one(['', '', '*', '**', '***'])}`,
    (own: Random) => (own.chance(0.3) ? `< ${figure(own, 1)}` : figure(own, 1)),
    (own: Random) => `${own.whole(1, 40)}–${own.whole(41, 99)}`,
  ]);
  return {
    column: { side: r.one<Side>(['centre', 'right']) },
    heading,
    text: form,
    amount: true,
    property: 'measurements',
  };
}

/** Columns of short texts: states, times, telephone numbers, names. */
const wordKinds: readonly Kind[] = [
  textKind('Status', ['On track', 'Late', 'Done', 'At risk', 'Not begun']),
  textKind('Paid', ['Yes', 'No', 'x', '–']),
  {
    column: { side: 'left' },
    heading: 'Open',
    text: (r) =>
      `${String(r.whole(6, 11)).padStart(2, '0')}:${r.one(['00', '15', '30', '45'])}–${r.whole(12, 22)}:${r.one(['00', '30'])}`,
    amount: false,
  },
  {
    column: { side: 'left' },
    heading: 'Telephone',
    text: (r) => `0${r.whole(30, 79)}-${r.whole(100000, 999999)}`,
    amount: false,
  },
  textKind('Owner', ['A. Merrow', 'K. Starling', 'B. Quill', 'S. Eastmarch', 'T. Okehurst', 'D. van Holm']),
  {
    column: { side: 'left' },
    heading: 'Berth',
    text: (r) => `${r.one(['N', 'E', 'S'])}${r.whole(1, 24)}${r.one(['', 'a', 'b'])}`,
    amount: false,
  },
];

function keyKind(r: Random): Kind {
  const pick = r.whole(0, 3);
  if (pick === 0)
    return { column: { side: 'left' }, heading: 'No.', text: (_r, row) => String(row + 1), amount: false };
  if (pick === 1)
    return {
      column: { side: 'left' },
      heading: 'Date',
      text: (own, row) => `${String(Math.min(28, row + 1)).padStart(2, '0')} ${own.one(months)}`,
      amount: false,
    };
  if (pick === 2)
    return {
      column: { side: 'left' },
      heading: 'Item',
      text: (own) => `${own.one(['AX', 'BM', 'QL'])}-${own.whole(1000, 9999)}`,
      amount: false,
    };
  return {
    column: { side: 'left' },
    heading: 'Code',
    text: (own) => `${own.whole(100, 999)}/${own.whole(10, 99)}`,
    amount: false,
  };
}

/** Series of columns under headings that run over them: years by quarter, plan and actual. */
function series(
  r: Random,
  numbers: Numbers,
  most: number,
): { kinds: Kind[]; over: { text: string; columns: number }[] } {
  const below = r.one([
    ['Q1', 'Q2', 'Q3', 'Q4'],
    ['Planned', 'Actual'],
    ['Calls', 'Tonnes', 'Dues'],
    ['In', 'Out'],
    ['Jan', 'Feb', 'Mar'],
  ]);
  const groups = Math.max(2, Math.min(r.whole(2, 4), Math.floor(most / below.length)));
  const years = r.chance(0.5)
    ? Array.from({ length: groups }, (_, i) => String(2026 + i))
    : r.some(
        [
          'Three months ended 30 June',
          'Nine months ended',
          'Inner basin',
          'Outer basin and roads',
          'Spring',
          'Year to date',
        ],
        groups,
      );
  const figures = figuresOf(numbers, r.one([900, 90000]), r.one([0, 0, 1]));
  const kinds = years.flatMap(() =>
    below.map((heading): Kind => ({ column: { side: 'right' }, heading, text: figures, amount: true })),
  );
  return { kinds, over: years.map((text) => ({ text, columns: below.length })) };
}

const wrapped = (text: string): string[] => text.split(' ');

/** A random sheet. `most` bounds the columns; every choice that is unusual adds its property. */
export function randomSheet(r: Random, properties: Set<string>, most = 12, fixed?: { rows?: number }): Sheet {
  const has = (part: number, property: string) => {
    const yes = r.chance(part);
    if (yes) properties.add(property);
    return yes;
  };
  const numbers = r.one(numberStyles);
  if (numbers.thousands === ' ') properties.add('thin thousands');
  const style = r.one<Style>([
    'none',
    'none',
    'grid',
    'rows',
    'booktabs',
    'booktabs',
    'zebra',
    'box',
    'upright',
    'heading band',
  ]);
  properties.add(`style ${style}`);
  const accounts = r.chance(0.35);
  const kinds: Kind[] = [];
  if (!accounts && r.chance(0.35)) kinds.push(keyKind(r));
  const wraps = !accounts && has(0.25, 'wrapped texts');
  kinds.push(
    accounts
      ? textKind(r.chance(0.4) ? '' : r.one(['in thousands', 'EUR m', 'Item']), lines)
      : wraps
        ? {
            column: { side: 'left', measure: r.whole(18, 34) },
            heading: 'Remarks',
            text: (own) => (own.chance(0.5) ? `${own.one(goods)} ${own.one(remarks)}` : own.one(goods)),
            amount: false,
          }
        : textKind(r.one(['Harbour', 'Cargo', 'Name', '']), r.chance(0.5) ? places : goods),
  );
  if (!accounts && r.chance(0.25)) kinds.push(textKind('Cargo', goods));
  // Rows come in groups, named once for all rows of the group.
  const grouped = !accounts && has(0.14, 'row groups');
  if (grouped) kinds.unshift(textKind(r.one(['Region', 'Quay', '']), [...places, ...nouns]));
  const room = Math.max(1, most - kinds.length);
  const spans = room >= 4 && has(0.25, 'spanning headings') ? series(r, numbers, room) : undefined;
  const labels = kinds.length;
  if (spans) kinds.push(...spans.kinds);
  else if (!accounts && has(0.1, 'texts only')) kinds.push(...r.some(wordKinds, Math.min(room, r.whole(1, 4))));
  else {
    if (!accounts && r.chance(0.2)) kinds.push(r.one(wordKinds));
    const count = r.whole(1, Math.min(room, r.chance(0.2) ? 12 : 6));
    const alike = accounts || r.chance(0.3);
    const one = amountKind(r, numbers);
    for (let i = 0; i < count; i++)
      kinds.push(
        alike
          ? {
              ...one,
              heading: accounts ? (r.chance(0.5) ? String(2032 - i) : `${r.one(months)} ${2031 - i}`) : one.heading,
            }
          : amountKind(r, numbers),
      );
    if (r.chance(0.12)) kinds.push(textKind('Unit', ['kg', 't', 'pcs', 'm']));
  }
  for (const kind of kinds) if (kind.property) properties.add(kind.property);
  const headSide = r.one(['as column', 'as column', 'as column', 'left', 'centre'] as const);
  if (headSide !== 'as column') properties.add(`headings ${headSide}`);
  const signApart = accounts && has(0.25, 'signs apart');
  const columns = kinds.map((kind, i): Column => ({
    ...kind.column,
    side: kind.amount && style === 'grid' && kind.column.side === 'decimal' ? 'right' : kind.column.side,
    headSide:
      headSide === 'as column' || i === 0 ? (kind.column.side === 'decimal' ? 'right' : kind.column.side) : headSide,
    ...(signApart && kind.amount ? { signApart: true } : {}),
  }));
  const boldHead = r.chance(0.7);
  const rows: Row[] = [];
  const headingShaded = style === 'heading band' || r.chance(0.1);
  const noHeading = !spans && has(0.04, 'no heading');
  if (spans) {
    const top: (Cell | undefined)[] = kinds.map(() => undefined);
    const reaches = has(0.4, 'headings reach down');
    for (let i = 0; i < labels; i++) if (reaches && kinds[i].heading) top[i] = { text: kinds[i].heading, rows: 2 };
    spans.over.reduce((at, { text, columns: over }) => ((top[at] = { text, columns: over }), at + over), labels);
    rows.push({ kind: 'heading', cells: top, bold: boldHead, shaded: headingShaded });
    rows.push({
      kind: 'heading',
      cells: kinds.map((kind, i) =>
        i < labels && reaches ? undefined : kind.heading ? { text: kind.heading } : undefined,
      ),
      bold: boldHead,
      shaded: headingShaded,
    });
  } else if (!noHeading) {
    const long = has(0.15, 'headings of two lines');
    rows.push({
      kind: 'heading',
      cells: kinds.map((kind, i) =>
        kind.heading
          ? {
              text:
                long && i >= labels && r.chance(0.6)
                  ? `${kind.heading} ${r.one(['per day', '30 June', 'of all', 'this year'])}`
                  : kind.heading,
            }
          : undefined,
      ),
      bold: boldHead,
      shaded: headingShaded,
    });
  }
  if (!spans && !noHeading && has(0.08, 'units in the heading'))
    rows.push({
      kind: 'heading',
      bold: boldHead && r.chance(0.5),
      shaded: headingShaded,
      cells: kinds.map((kind, i) =>
        kind.amount && i > 0 ? { text: r.one(['(t)', '(EUR)', '(m)', '%', '(1,000 t)', 'kg']) } : undefined,
      ),
    });
  if (!noHeading && kinds.length > 3 && has(0.03, 'columns numbered'))
    rows.push({ kind: 'heading', cells: kinds.map((_, i) => ({ text: String(i + 1) })) });
  const headingRows = rows.length;
  const longTable = !fixed && r.chance(0.1);
  const count = fixed?.rows ?? (has(0.06, 'tiny') ? r.whole(1, 2) : longTable ? r.whole(60, 110) : r.whole(3, 22));
  if (longTable) properties.add('several pages');
  const sections = count > 4 && !grouped && has(0.3, 'sections');
  const totals = has(accounts ? 0.8 : 0.3, 'totals');
  const ruledSums = totals && style !== 'grid' && has(0.5, 'rules over sums');
  const spacers = count > 4 && !grouped && has(0.25, 'spacer rows');
  const sparse = has(0.15, 'sparse');
  const indented = sections && r.chance(0.6);
  const body = (row: number): Row => ({
    kind: 'body',
    cells: kinds.map((kind, i) => {
      const text = kind.text(r, row);
      if (i > 0 && ((sparse && r.chance(0.4)) || (kind.amount && r.chance(0.03)))) return undefined;
      if (i === 0 && r.chance(0.03) && kinds.length > 2 && i < labels - 1) return undefined;
      return { text, ...(i === 0 && indented ? { indent: 1 } : {}) };
    }),
  });
  const sum = (label: string): Row => ({
    kind: 'total',
    bold: r.chance(0.6),
    ruleAbove: ruledSums ? 'figures' : r.chance(0.3) && style !== 'grid' ? 'row' : undefined,
    cells: kinds.map((kind, i) => (i === 0 ? { text: label } : kind.amount ? { text: kind.text(r, 0) } : undefined)),
    shaded: r.chance(0.15),
  });
  let sinceSection = 0;
  for (let i = 0; i < count; i++) {
    if (sections && (i === 0 || (sinceSection >= 2 && r.chance(0.3)))) {
      if (i > 0 && totals && r.chance(0.7)) rows.push(sum(`Total ${r.one(nouns)}`));
      if (i > 0 && spacers) rows.push({ kind: 'spacer', cells: [] });
      rows.push({
        kind: 'section',
        bold: r.chance(0.6),
        cells: kinds.map((_, column) =>
          column === 0
            ? {
                text: `${r.one(['Inner basin', 'Income', 'Costs of running', 'Dry bulk', 'Other'])}${r.chance(0.3) ? ':' : ''}`,
              }
            : undefined,
        ),
        shaded: r.chance(0.15),
        room: r.chance(0.3) ? 0.5 : undefined,
      });
      sinceSection = 0;
    } else if (spacers && !sections && i > 1 && i < count - 1 && r.chance(0.2))
      rows.push({ kind: 'spacer', cells: [] });
    const row = body(i);
    rows.push(
      row.cells.some((cell) => cell) ? row : { ...row, cells: kinds.map((kind) => ({ text: kind.text(r, i) })) },
    );
    sinceSection++;
  }
  if (totals)
    rows.push({ ...sum(r.one(['Total', 'Grand total', 'All harbours'])), room: r.chance(0.15) ? 0.6 : undefined });
  if (grouped) nameGroups(r, rows, headingRows);
  const gutter = has(0.15, 'tight gutters') ? r.whole(3, 5) : r.whole(8, 26);
  const titled = r.chance(0.7);
  return {
    kind: 'sheet',
    ...(titled
      ? {
          title: `${r.one(['Table ', 'Schedule ', ''])}${r.chance(0.4) ? `${r.whole(1, 9)} ` : ''}${r.one(['Tonnes handled', 'Dues and charges', 'Calls', 'Income and expenditure', 'Stock held'])} ${r.one(['by harbour', 'by month', 'in the year', 'of the Board', 'at the quays'])}`,
        }
      : {}),
    titleBelow: titled && has(0.1, 'title below'),
    ...(titled && has(0.2, 'units line')
      ? { units: r.one(['in thousands', 'Tonnes, not adjusted', '(EUR thousand)', 'unaudited']) }
      : {}),
    notes: has(0.2, 'notes below') ? Array.from({ length: r.whole(1, 2) }, (_, i) => `(${i + 1}) ${sentence(r)}`) : [],
    columns,
    headingRows,
    rows: rows.filter(
      (row) => row.kind === 'spacer' || wrapped(row.cells.map((cell) => cell?.text ?? '').join('')).join('') !== '',
    ),
    style,
    gutter,
    size: r.one([6.5, 7.5, 8, 8.5, 9, 10]),
    pitch: r.one([1.25, 1.4, 1.6, 1.9, 2.3]),
    spreads: r.chance(0.5),
    repeats: r.chance(0.6),
    leaders: accounts && has(0.2, 'leaders'),
    ruledSpans: r.chance(0.5),
    level: wraps ? levelOf(r, properties, 'cells') : 'top',
    levelOfSpans: spans || grouped ? levelOf(r, properties, 'spans') : 'top',
  };
}

function levelOf(r: Random, properties: Set<string>, of: string): Level {
  const level = r.one<Level>(
    of === 'cells'
      ? ['top', 'top', 'top', 'top', 'middle', 'middle', 'middle', 'bottom']
      : ['top', 'middle', 'middle', 'bottom'],
  );
  if (level !== 'top') properties.add(`${of} at the ${level}`);
  return level;
}

/** Leaves the first text of each group of rows standing for them all. */
function nameGroups(r: Random, rows: Row[], headingRows: number): void {
  for (let from = headingRows; from < rows.length;) {
    const to = Math.min(rows.length, from + r.whole(1, 5));
    const group = rows.slice(from, to);
    const ends = group.findIndex(({ kind }) => kind !== 'body');
    const own = ends < 0 ? group.length : ends;
    for (let i = 0; i < own; i++) {
      const [name, ...others] = rows[from + i].cells;
      rows[from + i] = {
        ...rows[from + i],
        cells: [
          i === 0 ? { text: name?.text ?? r.one(places), ...(own > 1 ? { rows: own } : {}) } : undefined,
          ...others,
        ],
      };
    }
    from += Math.max(1, own);
  }
}
