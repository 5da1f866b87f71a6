// How much of what can be wrong on paper is named: random breakages of a report of each demo family, by a tie-out, a problem, a
// difference from the reports before, or a check that the program proposes by itself. A file argument: how many.
import { random } from '../demo/random';
import {
  amountsOf,
  columnsOf,
  columnsOfNumbers,
  inThousands,
  misprinted,
  namedBy,
  openFamily,
  swapped,
  textAt,
  withoutWords,
  wordsOf,
  written,
  type Draw,
  type Family,
  type FamilyFiles,
  type Named,
  type Pages,
} from '../server/testing/broken-papers';
import {
  demoFolder,
  demoPipeline,
  notesFolder,
  notesPipeline,
  registerFolder,
  registerPipeline,
  rollFolder,
  rollPipeline,
  throughputFolder,
  throughputPipeline,
  tideDatasets,
  tideFolder,
} from '../server/testing/folders';
import { sized } from './size';

const runs = sized(200, process.argv[2]);

const families: FamilyFiles[] = [
  {
    name: 'landing sheets',
    pipeline: demoPipeline,
    folder: demoFolder,
    paths: [22, 23, 24, 25, 26, 27].map((week) => `week-${week}.pdf`),
  },
  {
    name: 'berth notes',
    pipeline: notesPipeline,
    folder: notesFolder,
    paths: [1041, 1042, 1043, 1044, 1045, 1046].map((note) => `note-${note}.pdf`),
  },
  {
    name: 'throughput',
    pipeline: throughputPipeline,
    folder: throughputFolder,
    paths: [2021, 2022, 2023, 2024].map((year) => `north/throughput-${year}.pdf`),
  },
  {
    name: 'licence roll',
    pipeline: rollPipeline,
    folder: rollFolder,
    paths: [2023, 2024, 2025].map((year) => `roll-${year}.pdf`),
  },
  ...tideDatasets.map(({ name, pipeline }) => ({
    name,
    pipeline,
    folder: tideFolder,
    paths: ['05', '06', '07'].map((month) => `tides-2025-${month}.pdf`),
  })),
  {
    name: 'vessel register',
    pipeline: registerPipeline,
    folder: registerFolder,
    paths: ['register-2025.pdf'],
    pages: 8,
  },
];

/** Words of numbers in the dataset that no total covers. */
function amountsAlone(family: Family) {
  const covered = new Set(amountsOf(family).amounts.map(({ at }) => `${at.page} ${at.word}`));
  const { sheet } = family.sound;
  return sheet.columns.flatMap(({ cells, origins }) =>
    cells.flatMap((cell, row) =>
      typeof cell !== 'number'
        ? []
        : wordsOf(sheet, origins[row])
            .filter((at) => /\d/.test(textAt(family.pages, at)) && !covered.has(`${at.page} ${at.word}`))
            .slice(0, 1),
    ),
  );
}

/** Each breaks the pages of a family, or finds nothing there to break. */
const breakages: Record<string, (family: Family, draw: Draw) => Pages | undefined> = {
  'a digit under a total': (family, draw) =>
    digit(
      family,
      amountsOf(family).amounts.map(({ at }) => at),
      draw,
    ),
  'a digit under no total': (family, draw) => digit(family, amountsAlone(family), draw),
  'a total misprinted': (family, draw) => digit(family, amountsOf(family).totals, draw),
  'a row dropped under a total': (family, draw) => {
    const { amounts } = amountsOf(family);
    return amounts.length === 0 ? undefined : withoutWords(family.pages, draw.one(amounts).row);
  },
  'a row dropped under no total': (family, draw) => {
    if (amountsOf(family).totals.length > 0) return undefined;
    const { sheet } = family.sound;
    const row = draw.whole(0, sheet.rows.length - 1);
    return withoutWords(
      family.pages,
      sheet.columns.flatMap(({ origins }) => wordsOf(sheet, origins[row])),
    );
  },
  'two columns swapped': (family, draw) => {
    const columns = columnsOf(family).filter(({ cells }) => cells.length >= 4);
    if (columns.length < 2) return undefined;
    const a = draw.one(columns);
    return swapped(family.pages, a, draw.one(columns.filter((each) => each !== a)));
  },
  'a heading respelled': (family, draw) => {
    const columns = columnsOf(family).filter(({ heading }) =>
      heading.some((at) => /\p{L}{3}/u.test(textAt(family.pages, at))),
    );
    if (columns.length === 0) return undefined;
    const at = draw.one(columns).heading.find((each) => /\p{L}{3}/u.test(textAt(family.pages, each)))!;
    return written(family.pages, at, `${textAt(family.pages, at)}ish`);
  },
  'a unit changed': (family, draw) => {
    const columns = columnsOfNumbers(family);
    return columns.length === 0 ? undefined : inThousands(family.pages, draw.one(columns));
  },
};

function digit({ pages }: Family, among: Parameters<typeof textAt>[1][], draw: Draw): Pages | undefined {
  if (among.length === 0) return undefined;
  const at = draw.one(among);
  return written(pages, at, misprinted(textAt(pages, at), draw));
}

const counts = new Map<string, Map<Named, number>>();
const count = (what: string, named: Named) =>
  counts.set(what, (counts.get(what) ?? new Map()).set(named, (counts.get(what)?.get(named) ?? 0) + 1));
const draw = random(200);
const open = await Promise.all(families.map(async (files) => ({ name: files.name, family: await openFamily(files) })));
for (const { name, family } of open) {
  const alarm = namedBy(family, family.pages);
  if (alarm !== 'harmless') console.log(`false alarm in the sound ${name}: ${alarm}`);
}
for (let done = 0; done < runs;) {
  const { family, name } = draw.one(open);
  const what = draw.one(Object.keys(breakages));
  const pages = breakages[what](family, draw);
  if (!pages) continue;
  done++;
  const named = namedBy(family, pages);
  count(what, named);
  if (named === 'nothing' && process.argv[3] === 'names') console.log(`nothing: ${what}, ${name}`);
}
let [all, told] = [0, 0];
for (const [what, named] of [...counts].sort()) {
  const total = [...named.values()].reduce((sum, n) => sum + n, 0);
  const caught = total - (named.get('nothing') ?? 0);
  [all, told] = [all + total, told + caught];
  console.log(
    `${what.padEnd(30)} ${caught} of ${total} named   ${[...named].map(([by, n]) => `${by} ${n}`).join(', ')}`,
  );
}
console.log(`together ${told} of ${all}, ${Math.round((100 * told) / all)} %`);
