import { sampleList } from '../../core/testing/sheets';
import { cellText, isBlank } from '../../core/values/cell';
import type { Sheet } from '../../core/sheet/sheet';
import type { random } from '../../demo/random';

type Draw = ReturnType<typeof random>;

/** Settings of a kind that may do something on a sheet: its own columns, texts that stand in it, and now and then what does not. */
export function randomSettings(kind: string, sheet: Sheet, draw: Draw): Record<string, unknown> {
  const names = sheet.columns.map(({ name }) => name);
  const column = () => (names.length === 0 || draw.chance(0.03) ? 'No such column' : draw.one(names));
  const some = () => draw.some(names, draw.whole(1, 3));
  const choice = () =>
    draw.one([
      { by: 'all' },
      { by: 'names', names: some() },
      { by: 'names', names: some() },
      { by: 'all but', names: some() },
      { by: 'all after', name: column() },
      { by: 'names matching', pattern: `*${column().slice(1, 4)}*` },
      { by: 'type', type: draw.one(['text', 'decimal']) },
    ]);
  const filled = sheet.columns.flatMap(({ cells }) => cells.filter((cell) => !isBlank(cell)).slice(0, 200));
  const text = () => (filled.length === 0 ? 'x' : cellText(draw.one(filled)));
  const word = () => draw.one(text().split(/\s+/)) || 'x';
  const literal = (of: string) => of.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
  const condition = () => {
    const test = draw.one([
      'is',
      'is not',
      'contains',
      'starts with',
      'is like',
      'has the pattern',
      'is one of',
      'is at least',
      'is below',
      'is blank',
      'is a misfit',
    ]);
    return {
      of: draw.chance(0.06)
        ? { is: 'formula', formula: `length("${column().replaceAll('"', '""')}") > ${draw.whole(0, 9)}` }
        : draw.chance(0.8)
          ? { is: 'column', name: column() }
          : {
              is: 'mark',
              name: draw.one(['role', 'bold', 'shaded', 'page', 'indent', 'table', 'space above', 'rule above']),
            },
      test,
      value:
        test === 'has the pattern'
          ? literal(word())
          : test.startsWith('is at') || test === 'is below'
            ? draw.whole(0, 500)
            : draw.one([text(), word(), 'true', 'body']),
      values: [text(), text(), 'nothing like it'],
    };
  };
  const conditions = () => Array.from({ length: draw.whole(1, 2) }, condition);
  const settings: Record<string, () => Record<string, unknown>> = {
    'carry values': () => ({
      columns: choice(),
      direction: draw.one(['down', 'up', 'right']),
      stopAt: draw.chance(0.3) ? column() : '',
    }),
    'close gaps': () => ({ columns: choice(), to: draw.one(['the left', 'the right']) }),
    'compute column': () => {
      const name = () => `"${column().replaceAll('"', '""')}"`;
      const formulas = [
        `${name()} || '/' || ${name()}`,
        `case when ${name()} is null then 'none' else ${name()} end`,
        `length(${name()}) * 2`,
        `upper(left(${name()}, 3))`,
        `cast(replace(${name()}, ',', '') as numeric) / 2`,
        `${name()} +`,
        `report.page`,
        `coalesce(${name()}, report."file name")`,
        `lag(${name()}) over (order by report.row)`,
      ];
      return {
        columns: Array.from({ length: draw.whole(1, 2) }, () => ({
          into: draw.one(['Worked out', column()]),
          formula: draw.one(formulas),
          unit: draw.one(['', 'kg']),
        })),
      };
    },
    'concatenate columns': () => ({
      columns: choice(),
      joiner: draw.one([' ', '/', '']),
      into: draw.one(['Joined', column()]),
      keep: draw.chance(0.5),
    }),
    'constant column': () => ({ name: draw.one(['Port', column()]), value: 'Saltby' }),
    'correct cells': () => ({
      corrections: [
        {
          report: draw.one(['report.pdf', 'other.pdf']),
          page: draw.whole(1, 3),
          word: draw.whole(0, 80),
          column: column(),
          from: text(),
          to: draw.one(['', 'corrected']),
          into: draw.one(['', column()]),
        },
      ],
    }),
    'crop between marks': () => ({
      from: draw.one(['', word()]),
      to: draw.one(['', word()]),
      withFrom: draw.chance(0.5),
      withTo: draw.chance(0.5),
      which: draw.one(['each', 'first', 'last']),
    }),
    'date from parts': () => ({
      of: draw.one(['a week and a weekday', 'a month and a day', 'a year and a month', 'a year and a quarter']),
      whole: column(),
      part: column(),
      keep: draw.chance(0.5),
    }),
    deduplicate: () => ({ columns: choice(), keep: draw.one(['the first', 'the last']) }),
    'demote header': () => ({}),
    'drop blank rows': () => ({ columns: choice() }),
    'drop noise': () => ({
      headings: draw.chance(0.5),
      headingRows: draw.whole(0, 2),
      furniture: draw.chance(0.5),
      role: draw.one(['none', 'heading', 'total', 'note']),
    }),
    'find and replace': () => {
      const find = draw.one(['a text', 'the whole cell', 'a pattern', 'a blank', 'a misfit']);
      return {
        columns: choice(),
        find,
        text: find === 'a pattern' ? `(${literal(word())})` : word(),
        replace: draw.one(['', 'new', '$1!']),
        where: draw.chance(0.3) ? conditions() : [],
      };
    },
    'fold lines': () => ({
      keys: choice(),
      into: draw.one(['the row above', 'the row below']),
      joiner: draw.one([' ', '; ']),
      by: draw.chance(0.4) ? [{ columns: choice(), how: draw.one(['joined', 'kept', 'added up']) }] : [],
    }),
    'group labels': () => ({
      column: column(),
      into: draw.one(['Group', column()]),
      groups: [{ category: 'A', values: [text(), `${word()}*`] }],
      others: draw.one(['', 'others']),
    }),
    'hold totals': () => ({
      wording: draw.one([[], ['Total*', 'Summe*'], [`${word()}*`]]),
      marked: draw.chance(0.5),
      bold: draw.chance(0.2),
      arithmetic: draw.chance(0.5),
    }),
    'lift sections': () => ({
      levels: Array.from({ length: draw.whole(1, 2) }, () => ({
        into: draw.one(['Section', column()]),
        known: draw.one(['one filled cell', 'marked as section', 'bold', 'pattern']),
        pattern: draw.one(['*', `${word()}*`]),
        indent: draw.one(['any', 'any', 'outermost', 'second']),
      })),
    }),
    'look up': () => ({
      from: { is: 'file', name: sampleList.name },
      keys: [{ column: column(), of: draw.one(['Code', 'Species', 'No such column']) }],
      columns: [{ name: draw.one(['Species', 'Quota']), into: draw.one(['', column()]) }],
      missing: draw.one(['pass and are told', 'are held']),
      version: draw.one([sampleList.name, 'gone']),
    }),
    'number rows': () => ({ name: draw.one(['No.', column()]) }),
    'pick columns': () => ({ columns: choice() }),
    'promote header rows': () => ({
      rows: draw.whole(0, 3),
      spread: draw.chance(0.7),
      blank: draw.one(['', 'Remark']),
    }),
    'pull text': () => ({
      column: column(),
      template: draw.one(['{One} {Two}', `${word().replace(/[{}[\]\\]/g, '')}{Rest}`, '{All}']),
    }),
    recode: () => ({
      columns: choice(),
      values: [{ from: [text(), text()], to: draw.one(['', 'coded']) }],
      others: draw.one(['kept', 'blank', 'a problem']),
    }),
    rename: () => ({
      names: [{ from: [column()], to: draw.one(['Renamed', column()]) }],
      patterns: draw.chance(0.3) ? [{ pattern: '^(.)', replace: 'x$1' }] : [],
      series: draw.chance(0.3) ? [{ columns: choice(), name: 'No. #', from: 1 }] : [],
    }),
    'set types': () => ({
      types: [{ columns: choice(), type: draw.one(['text', 'integer', 'decimal', 'date', 'boolean']) }],
    }),
    'sift rows': () => ({
      hold: draw.one(['the matching', 'all others']),
      when: draw.one(['all', 'any']),
      conditions: conditions(),
    }),
    sort: () => ({ by: [{ column: column(), order: draw.one(['up', 'down']) }, { column: column() }] }),
    'split column': () => {
      const where = draw.one(['at a mark', 'at every mark', 'at a pattern', 'at cuts', 'between quantity and unit']);
      return {
        column: column(),
        where,
        mark: draw.one([' ', ',', '.']),
        nth: draw.whole(1, 2),
        counted: draw.one(['from the left', 'from the right']),
        pattern: '\\s+',
        cuts: [draw.whole(1, 4), -1],
        to: draw.one(['columns', 'rows']),
        into: draw.one([[], [column()]]),
        keep: draw.chance(0.4),
      };
    },
    stamp: () => {
      const from = draw.one(['file name', 'page', 'table title', 'page text', 'line that says when', 'label']);
      return {
        from,
        template:
          from === 'file name'
            ? '{Name}.pdf'
            : from === 'page text'
              ? `${word().replace(/[{}[\]\\]/g, '')} {Beside}`
              : '',
        label: text(),
        column: draw.one(['Stamped', column()]),
      };
    },
    'tidy text': () => ({
      columns: choice(),
      spaces: draw.chance(0.7),
      letters: draw.one(['as printed', 'capitals', 'first letter of each word']),
      marks: draw.one(['stay', 'go', 'into a column']),
    }),
    'trim rows': () => ({
      top: draw.whole(0, 4),
      bottom: draw.whole(0, 3),
      from: draw.whole(0, 4),
      to: draw.whole(0, 8),
    }),
    unpivot: () => {
      const heading = draw.one(['one column', 'the parts of a template', 'the parts between marks']);
      return {
        columns: choice(),
        heading,
        into: draw.one(['Heading', column()]),
        template: draw.one(['{A} {B}', '{All}']),
        mark: ' ',
        parts: ['A', 'B'],
        measure: draw.one(['', 'B']),
        blanks: draw.one(['held', 'kept']),
        order: draw.one(['row by row', 'column by column']),
      };
    },
    pivot: () => ({
      names: { by: 'names', names: [column()] },
      values: { by: 'names', names: some() },
      meet: draw.one(['a problem', 'added up', 'the first', 'the last']),
      expected: draw.one([[], [text()]]),
    }),
    'stack blocks': () => ({
      sides: { by: 'names', names: some() },
      by: draw.one(['every so many columns', 'headings that come again', 'a parent heading']),
      columns: draw.whole(1, 3),
      order: draw.one(['row by row', 'block by block']),
    }),
    'split table': () => ({
      where: draw.one([
        'at blank rows',
        'at white space',
        'below rules',
        'before rows that match',
        'after rows that match',
        'at a row number',
        'where the heading comes again',
      ]),
      row: draw.whole(2, 6),
      text: `${word()}*`,
      into: draw.one(['', 'Part', column()]),
    }),
    'lines to records': () => ({
      begins: draw.one(['after a blank line', 'below a rule', 'where a line matches', 'every so many lines']),
      lines: draw.whole(1, 3),
      text: `*${word()}*`,
      fields: [
        { into: 'First', known: 'its place', line: 1 },
        { into: 'Last', known: 'its place', line: -1, missing: true },
        { into: 'Labelled', known: 'a label', label: word(), missing: draw.chance(0.7) },
        ...(draw.chance(0.7) ? [{ into: 'Rest', known: 'all other lines' }] : []),
      ],
    }),
    transpose: () => ({ first: draw.chance(0.6), names: draw.one(['into the first column', 'away']) }),
    summarise: () => ({
      by: { by: 'names', names: some() },
      values: [
        {
          columns: choice(),
          how: draw.one(['sum', 'mean', 'least', 'most', 'count', 'count of different', 'first', 'last', 'list']),
        },
      ],
    }),
  };
  return settings[kind]();
}
