import type { Cell } from '../values/cell';

type Rows = readonly (readonly (string | number | boolean | null)[])[];

/** One example of each kind: a sheet with its column names on top, settings, and the sheet that comes of it. */
export interface StepExample {
  readonly settings: Record<string, unknown>;
  readonly before: Rows;
  readonly after: readonly (readonly Cell[])[];
  /** A list that is looked into is the one of `testing/sheets.ts`. */
  readonly looksUp?: boolean;
  /** How many rows are held. */
  readonly held?: number;
}

const names = (...all: string[]) => ({ by: 'names', names: all });

export const stepExamples: Record<string, StepExample> = {
  'carry values': {
    settings: { columns: names('Berth') },
    before: [
      ['Berth', 'Dues'],
      ['N4', '88.20'],
      [null, '12.00'],
    ],
    after: [
      ['Berth', 'Dues'],
      ['N4', '88.20'],
      ['N4', '12.00'],
    ],
  },
  'close gaps': {
    settings: { columns: names('Gutted', 'Whole') },
    before: [
      ['Gutted', 'Whole'],
      [null, '12'],
      ['7', '9'],
    ],
    after: [
      ['Gutted', 'Whole'],
      ['12', null],
      ['7', '9'],
    ],
  },
  'compute column': {
    settings: { columns: [{ into: 'Where', formula: `"Quay" || '/' || coalesce("Berth", '-')` }] },
    before: [
      ['Quay', 'Berth'],
      ['Saltby', 'N4'],
      ['Fairlead', null],
    ],
    after: [
      ['Quay', 'Berth', 'Where'],
      ['Saltby', 'N4', 'Saltby/N4'],
      ['Fairlead', null, 'Fairlead/-'],
    ],
  },
  'concatenate columns': {
    settings: { columns: names('Day', 'Month'), joiner: ' ', into: 'Date' },
    before: [
      ['Day', 'Month', 'Boxes'],
      ['14', 'June', '3'],
    ],
    after: [
      ['Date', 'Boxes'],
      ['14 June', '3'],
    ],
  },
  'constant column': {
    settings: { name: 'Port', value: 'Saltby' },
    before: [['Boxes'], ['3']],
    after: [
      ['Port', 'Boxes'],
      ['Saltby', '3'],
    ],
  },
  'correct cells': {
    settings: {
      corrections: [
        { report: 'week-24.pdf', page: 1, word: 0, column: 'Boxes', from: '1O', to: '10', why: 'a letter for a zero' },
      ],
    },
    before: [['Boxes'], ['1O'], ['3']],
    after: [['Boxes'], ['10'], ['3']],
  },
  'crop between marks': {
    settings: { from: 'Stays', to: 'Total', withFrom: false },
    before: [
      ['A', 'B'],
      ['Notes', null],
      ['Stays', null],
      ['N4', '2'],
      ['Total', '2'],
    ],
    after: [
      ['A', 'B'],
      ['N4', '2'],
    ],
    held: 3,
  },
  'date from parts': {
    settings: { whole: 'Week ending', part: 'Day' },
    before: [
      ['Week ending', 'Day', 'Boxes'],
      ['14 June 2025', 'Tue', '3'],
    ],
    after: [
      ['Date', 'Boxes'],
      ['2025-06-10', '3'],
    ],
  },
  deduplicate: {
    settings: { columns: names('Vessel') },
    before: [
      ['Vessel', 'Berth'],
      ['Grey Gull', 'N4'],
      ['Grey Gull', 'S1'],
    ],
    after: [
      ['Vessel', 'Berth'],
      ['Grey Gull', 'N4'],
    ],
    held: 1,
  },
  'demote header': {
    settings: {},
    before: [
      ['Quay', 'Boxes'],
      ['Saltby', '3'],
    ],
    after: [
      ['Column 1', 'Column 2'],
      ['Quay', 'Boxes'],
      ['Saltby', '3'],
    ],
  },
  'drop blank rows': {
    settings: { columns: { by: 'all' } },
    before: [
      ['Quay', 'Boxes'],
      [null, null],
      ['Saltby', '3'],
    ],
    after: [
      ['Quay', 'Boxes'],
      ['Saltby', '3'],
    ],
    held: 1,
  },
  'drop noise': {
    settings: { headings: true },
    before: [
      ['Quay', 'Boxes'],
      ['-----', '-----'],
      ['Saltby', '3'],
      ['Page 2 of 4', null],
      ['QUAY', 'Boxes'],
      ['Fairlead', '5'],
    ],
    after: [
      ['Quay', 'Boxes'],
      ['Saltby', '3'],
      ['Fairlead', '5'],
    ],
    held: 3,
  },
  'find and replace': {
    settings: { columns: names('Quay'), find: 'a pattern', text: '^(.+) \\((.)\\)$', replace: '$2 $1' },
    before: [['Quay'], ['Saltby (N)']],
    after: [['Quay'], ['N Saltby']],
  },
  'fold lines': {
    settings: { keys: names('Berth'), by: [{ columns: names('Hours'), how: 'added up' }] },
    before: [
      ['Berth', 'Description', 'Hours'],
      ['N4', 'Mooring by the', 2.1],
      [null, 'night crew', 1.2],
    ],
    after: [
      ['Berth', 'Description', 'Hours'],
      ['N4', 'Mooring by the night crew', 3.3],
    ],
    held: 1,
  },
  'group labels': {
    settings: { column: 'Species', into: 'Kind', groups: [{ category: 'Crab', values: ['* crab'] }], others: 'Fish' },
    before: [['Species'], ['Rock crab'], ['Grey sole']],
    after: [
      ['Kind', 'Species'],
      ['Crab', 'Rock crab'],
      ['Fish', 'Grey sole'],
    ],
  },
  'hold totals': {
    settings: { arithmetic: true },
    before: [
      ['Quay', 'Boxes', 'Value'],
      ['Saltby', '3', '120.50'],
      ['Fairlead', '5', '99.50'],
      ['Both quays', '8', '220.00'],
    ],
    after: [
      ['Quay', 'Boxes', 'Value'],
      ['Saltby', '3', '120.50'],
      ['Fairlead', '5', '99.50'],
    ],
    held: 1,
  },
  'lift sections': {
    settings: { levels: [{ into: 'Coast', known: 'pattern', pattern: '* coast' }, { into: 'Quay' }] },
    before: [
      ['Species', 'Boxes'],
      ['North coast', null],
      ['Saltby', null],
      ['Grey sole', '3'],
      ['South coast', null],
      ['Hake', '1'],
    ],
    after: [
      ['Coast', 'Quay', 'Species', 'Boxes'],
      ['North coast', 'Saltby', 'Grey sole', '3'],
      ['South coast', null, 'Hake', '1'],
    ],
    held: 3,
  },
  'look up': {
    settings: {
      from: { is: 'file', name: 'species.csv' },
      keys: [{ column: 'Code', of: 'Code' }],
      columns: [{ name: 'Species' }, { name: 'Quota', into: 'Boxes allowed' }],
      version: 'species.csv',
    },
    looksUp: true,
    before: [
      ['Code', 'Boxes'],
      ['HK1', '3'],
      ['SL2', '5'],
    ],
    after: [
      ['Code', 'Species', 'Boxes allowed', 'Boxes'],
      ['HK1', 'Lantern hake', 120, '3'],
      ['SL2', 'Grey sole', 45, '5'],
    ],
  },
  'number rows': {
    settings: { name: 'Line' },
    before: [['Boxes'], ['3'], ['5']],
    after: [
      ['Line', 'Boxes'],
      [1, '3'],
      [2, '5'],
    ],
  },
  'pick columns': {
    settings: { columns: names('Boxes', 'Quay') },
    before: [
      ['Quay', 'Code', 'Boxes'],
      ['Saltby', 'HK1', '3'],
    ],
    after: [
      ['Boxes', 'Quay'],
      ['3', 'Saltby'],
    ],
  },
  'promote header rows': {
    settings: { rows: 2 },
    before: [
      ['Column 1', 'Column 2'],
      ['Weight', 'Weight'],
      ['Gutted', 'Whole'],
      ['12', '14'],
    ],
    after: [
      ['Weight Gutted', 'Weight Whole'],
      ['12', '14'],
    ],
    held: 2,
  },
  'pull text': {
    settings: { column: 'Item', template: '{Code} - {Name}' },
    before: [['Item'], ['HK1 - Lantern hake']],
    after: [
      ['Item', 'Code', 'Name'],
      ['HK1 - Lantern hake', 'HK1', 'Lantern hake'],
    ],
  },
  recode: {
    settings: { columns: names('Flag'), values: [{ from: ['Y', 'yes'], to: 'landed' }] },
    before: [['Flag'], ['Y'], ['N']],
    after: [['Flag'], ['landed'], ['N']],
  },
  rename: {
    settings: {
      names: [{ to: 'Boxes', from: ['No. of boxes'] }],
      patterns: [{ pattern: '^Wt\\.? (.+)$', replace: 'Weight $1' }],
      series: [{ columns: { by: 'names', names: ['a', 'b'] }, name: 'Week #', from: 24 }],
    },
    before: [
      ['No. of boxes', 'Wt. gutted', 'a', 'b'],
      ['3', '1', '2', '4'],
    ],
    after: [
      ['Boxes', 'Weight gutted', 'Week 24', 'Week 25'],
      ['3', '1', '2', '4'],
    ],
  },
  'set types': {
    settings: {
      types: [
        { columns: names('Value'), type: 'decimal' },
        { columns: names('Day'), type: 'date' },
      ],
    },
    before: [
      ['Value', 'Day'],
      ['(1,234.50)', '14 June 2025'],
    ],
    after: [
      ['Value', 'Day'],
      [-1234.5, '2025-06-14'],
    ],
  },
  'sift rows': {
    settings: {
      conditions: [{ of: { is: 'column', name: 'Quay' }, test: 'is one of', values: ['Saltby', 'Tern Point'] }],
    },
    before: [
      ['Quay', 'Boxes'],
      ['Saltby', '3'],
      ['Fairlead', '5'],
    ],
    after: [
      ['Quay', 'Boxes'],
      ['Fairlead', '5'],
    ],
    held: 1,
  },
  sort: {
    settings: { by: [{ column: 'Quay' }] },
    before: [['Quay'], ['Saltby'], [null], ['Fairlead']],
    after: [['Quay'], ['Fairlead'], ['Saltby'], [null]],
  },
  'split column': {
    settings: { column: 'Weight', where: 'between quantity and unit', into: ['Weight', 'Unit'] },
    before: [['Weight'], ['1,234 kg']],
    after: [
      ['Weight', 'Unit'],
      ['1,234', 'kg'],
    ],
  },
  stamp: {
    settings: { from: 'file name', template: 'week-{Week}.pdf' },
    before: [['Boxes'], ['3']],
    after: [
      ['Week', 'Boxes'],
      ['24', '3'],
    ],
  },
  'tidy text': {
    settings: { columns: names('Species'), marks: 'into a column' },
    before: [['Species'], ['  Grey   sole¹']],
    after: [
      ['Species', 'Species mark'],
      ['Grey sole', '¹'],
    ],
  },
  'trim rows': { settings: { top: 1 }, before: [['A'], ['Notes'], ['N4']], after: [['A'], ['N4']], held: 1 },
  unpivot: {
    settings: {
      columns: { by: 'all but', names: ['Quay'] },
      heading: 'the parts of a template',
      template: '{Year} {Measure}',
      measure: 'Measure',
    },
    before: [
      ['Quay', '2024 Boxes', '2024 Value', '2025 Boxes', '2025 Value'],
      ['Saltby', '3', '9.50', '4', '12.00'],
      ['Fairlead', '5', '15.00', null, null],
    ],
    after: [
      ['Quay', 'Year', 'Boxes', 'Value'],
      ['Saltby', '2024', '3', '9.50'],
      ['Saltby', '2025', '4', '12.00'],
      ['Fairlead', '2024', '5', '15.00'],
    ],
    held: 1,
  },
  'lines to records': {
    settings: {
      fields: [
        { into: 'Name', known: 'its place', line: 1 },
        { into: 'Berth', known: 'its place', line: -1 },
        { into: 'Phone', known: 'a label', label: 'Phone:', missing: true },
        { into: 'Vessels', known: 'all other lines' },
      ],
    },
    before: [
      ['Licences'],
      ['Orrin Vale'],
      ['Grey Gull'],
      ['Hale Otter'],
      ['Phone: 555-0142'],
      ['N4'],
      [null],
      ['Mira Quarr'],
      ['Far Lantern'],
      ['S1'],
    ],
    after: [
      ['Name', 'Berth', 'Phone', 'Vessels'],
      ['Orrin Vale', 'N4', '555-0142', 'Grey Gull; Hale Otter'],
      ['Mira Quarr', 'S1', null, 'Far Lantern'],
    ],
    held: 1,
  },
  pivot: {
    settings: { names: names('Quarter'), values: names('Boxes'), expected: ['Q1', 'Q2'] },
    before: [
      ['Quay', 'Quarter', 'Boxes'],
      ['Saltby', 'Q2', 4],
      ['Saltby', 'Q1', 3],
      ['Fairlead', 'Q1', 5],
    ],
    after: [
      ['Quay', 'Q1', 'Q2'],
      ['Saltby', 3, 4],
      ['Fairlead', 5, null],
    ],
  },
  'split table': {
    settings: { where: 'before rows that match', text: '* coast', into: 'Coast' },
    before: [
      ['Quay', 'Boxes'],
      ['North coast', null],
      ['Saltby', '3'],
      ['South coast', null],
      ['Fairlead', '5'],
    ],
    after: [
      ['Coast', 'Quay', 'Boxes'],
      ['North coast', 'Saltby', '3'],
      ['South coast', 'Fairlead', '5'],
    ],
    held: 2,
  },
  'stack blocks': {
    settings: { sides: names('Quay'), by: 'a parent heading', into: 'Year' },
    before: [
      ['Quay', '2024 Boxes', '2024 Value', '2025 Boxes', '2025 Value'],
      ['Saltby', '3', '9.50', '4', '12.00'],
    ],
    after: [
      ['Quay', 'Year', 'Boxes', 'Value'],
      ['Saltby', '2024', '3', '9.50'],
      ['Saltby', '2025', '4', '12.00'],
    ],
  },
  summarise: {
    settings: { by: names('Quay'), values: [{ columns: names('Boxes') }, { columns: names('Species'), how: 'list' }] },
    before: [
      ['Quay', 'Species', 'Boxes'],
      ['Saltby', 'Hake', 3],
      ['Fairlead', 'Ling', 5],
      ['Saltby', 'Sole', 0.5],
    ],
    after: [
      ['Quay', 'Boxes', 'Species list'],
      ['Saltby', 3.5, 'Hake, Sole'],
      ['Fairlead', 5, 'Ling'],
    ],
  },
  transpose: {
    settings: { into: 'Quay' },
    before: [
      ['Measure', 'Saltby', 'Fairlead'],
      ['Boxes', '3', '5'],
      ['Value', '9.50', '15.00'],
    ],
    after: [
      ['Quay', 'Boxes', 'Value'],
      ['Saltby', '3', '9.50'],
      ['Fairlead', '5', '15.00'],
    ],
  },
};
