// Writes the demo folders anew: `npm run demo:write`. The same files come out every time.
import { mkdir, rm, writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { join } from 'node:path';
import { expectedLandings } from './expected';
import { landingSheet, type LandingSheet } from './landings';
import { drawSheet, northOffice, southOffice } from './layout';
import { pdfkitPen } from './pdfkit-pen';
import { pdfLibPen } from './pdf-lib-pen';
import { scanPen } from './scan';
import { drawNote, expectedNotes, narrowPaper, notePaper } from './berth-notes';
import { jspdfPen } from './jspdf-pen';
import { berthNotes } from './notes';
import { expectedRolls, printRoll } from './licence-roll';
import { licenceRoll, rollYears } from './licences';
import { expectedThroughput, printThroughput } from './quarter-throughput';
import { throughput, throughputYears } from './throughput';
import { expectedFlows, expectedWaters, printTides } from './tide-tables';
import { tideMonth, tideMonths } from './tides';
import { drawRegister, expectedRegister } from './vessel-register';
import { vessels } from './vessels';

const here = fileURLToPath(new URL('.', import.meta.url));
const folder = join(here, 'landing-sheets');
const firstSouthWeek = 30;
const [scanned, damaged, missing, twice] = [32, 33, 35, 34];

const titleOf = (sheet: LandingSheet) => `Landing sheet, week ${sheet.week} of 2025`;
const dateOf = (sheet: LandingSheet) => new Date(`${sheet.ending}T16:00:00Z`);

async function bytesOf(sheet: LandingSheet): Promise<Uint8Array> {
  if (sheet.week === scanned) {
    const { pen, end } = scanPen(southOffice);
    drawSheet(pen, southOffice, sheet);
    return end(titleOf(sheet), dateOf(sheet));
  }
  if (sheet.week < firstSouthWeek) {
    const { pen, end } = pdfkitPen(northOffice, titleOf(sheet), dateOf(sheet));
    drawSheet(pen, northOffice, sheet);
    return end();
  }
  const { pen, end } = await pdfLibPen(southOffice, titleOf(sheet), dateOf(sheet));
  drawSheet(pen, southOffice, sheet);
  return end();
}

const weeks = Array.from({ length: 16 }, (_, i) => 22 + i).filter((week) => week !== missing);
const sheets = weeks.flatMap((week) =>
  week === twice ? [landingSheet(week), landingSheet(week, 2)] : [landingSheet(week)],
);

await rm(folder, { recursive: true, force: true });
await mkdir(folder, { recursive: true });
for (const sheet of sheets) {
  const bytes = await bytesOf(sheet);
  const name = `week-${sheet.week}${sheet.revision > 0 ? `-r${sheet.revision}` : ''}.pdf`;
  // The damaged one ends in the middle, as a file does whose copying was broken off.
  await writeFile(
    join(folder, name),
    sheet.week === damaged ? bytes.subarray(0, Math.floor(bytes.length * 0.55)) : bytes,
  );
}
await writeFile(
  join(folder, 'notes.txt'),
  'Week 35: the tally room was closed, no sheet was issued.\nWeek 34: revision 2 replaces the first issue.\n',
);
const contributing = sheets.filter(
  (sheet) => sheet.week !== scanned && sheet.week !== damaged && !(sheet.week === twice && sheet.revision === 0),
);
await writeFile(join(folder, '..', 'landing-sheets.expected.csv'), expectedLandings(contributing));
console.log(`${sheets.length} reports written to ${folder}, ${contributing.length} of them contribute.`);

const registered = vessels(14_390);
const register = join(here, 'vessel-register');
await rm(register, { recursive: true, force: true });
await mkdir(register, { recursive: true });
const { pen, end } = pdfkitPen(northOffice, 'Register of vessels 2025', new Date('2025-01-06T09:00:00Z'));
drawRegister(pen, registered);
await writeFile(join(register, 'register-2025.pdf'), await end());
await writeFile(join(here, 'vessel-register.expected.csv'), expectedRegister(registered));
console.log(`${registered.length} vessels written to ${register}.`);

const notes = berthNotes();
const noteFolder = join(here, 'berth-notes');
await rm(noteFolder, { recursive: true, force: true });
await mkdir(noteFolder, { recursive: true });
for (const note of notes) {
  const house = note.narrow ? narrowPaper : notePaper;
  const { pen: notePen, end: endNote } = jspdfPen(
    house,
    `Berth note ${note.number}`,
    new Date(`${note.date}T08:00:00Z`),
  );
  drawNote(notePen, house, note);
  await writeFile(join(noteFolder, `note-${note.number.slice(3)}.pdf`), endNote());
}
await writeFile(join(here, 'berth-notes.expected.csv'), expectedNotes(notes));
console.log(`${notes.length} notes written to ${noteFolder}.`);

const rolls = rollYears.map(licenceRoll);
const rollFolder = join(here, 'licence-roll');
await rm(rollFolder, { recursive: true, force: true });
await mkdir(rollFolder, { recursive: true });
for (const roll of rolls) await writeFile(join(rollFolder, `roll-${roll.year}.pdf`), printRoll(roll));
await writeFile(join(here, 'licence-roll.expected.csv'), expectedRolls(rolls));
console.log(`${rolls.length} rolls written to ${rollFolder}.`);

const months = tideMonths.map(([year, month]) => tideMonth(year, month));
const tideFolder = join(here, 'tide-tables');
await rm(tideFolder, { recursive: true, force: true });
await mkdir(tideFolder, { recursive: true });
for (const month of months)
  await writeFile(
    join(tideFolder, `tides-${month.year}-${String(month.month).padStart(2, '0')}.pdf`),
    printTides(month),
  );
await writeFile(join(here, 'tide-tables.expected.csv'), expectedFlows(months));
await writeFile(join(here, 'tide-waters.expected.csv'), expectedWaters(months));
console.log(`${months.length} months written to ${tideFolder}.`);

const throughputs = throughputYears.flatMap((year) =>
  (['North', 'West'] as const).map((group) => throughput(year, group)),
);
const throughputFolder = join(here, 'quarter-throughput');
await rm(throughputFolder, { recursive: true, force: true });
for (const report of throughputs) {
  const groupFolder = join(throughputFolder, report.group.toLowerCase());
  await mkdir(groupFolder, { recursive: true });
  await writeFile(join(groupFolder, `throughput-${report.year}.pdf`), printThroughput(report));
}
await writeFile(join(here, 'quarter-throughput.expected.csv'), expectedThroughput(throughputs));
console.log(`${throughputs.length} reports written to ${throughputFolder}.`);
