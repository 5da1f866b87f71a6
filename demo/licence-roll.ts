import { execFileSync } from 'node:child_process';
import { stringify } from 'csv-stringify/sync';
import type { Licence, LicenceRoll } from './licences';

const monthNames = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const longDate = (iso: string) =>
  `${Number(iso.slice(8))} ${monthNames[Number(iso.slice(5, 7)) - 1]} ${iso.slice(0, 4)}`;
const metres = (length: number) => `${Math.floor(length / 10)}.${length % 10}`;
const vesselText = ({ name, length }: Licence['vessels'][number]) => `${name}, ${metres(length)} m`;

const linesOf = ({ number, holder, address, vessels, phone, validTo }: Licence): string[] => [
  `${number} ${holder}`,
  address,
  ...vessels.map(vesselText),
  ...(phone === null ? [] : [`Phone: ${phone}`]),
  `Valid to: ${longDate(validTo)}`,
];

/** A text as the typesetter takes it: no control character at its beginning, its own letters escaped. */
const safe = (text: string) => `\\&${text.replaceAll('\\', '\\e').replaceAll('-', '\\-').replaceAll('’', '\\[cq]')}`;

const source = ({ year, licences }: LicenceRoll) => `.nr PS 9
.nr VS 12
.nr PO 0.9i
.nr LL 6.4i
.nr HM 1i
.nr FM 1i
.fam H
.ds LH Northreach Harbour Board
.ds CH
.ds RH Roll of licences ${year}
.ds LF
.ds CF Page %
.ds RF
.2C
.nf
${licences.map((licence) => `.ft B\n${safe(linesOf(licence)[0])}\n.ft R\n${linesOf(licence).slice(1).map(safe).join('\n')}\n.sp 0.6`).join('\n')}
`;

/** Prints the roll through groff, in two columns; a licence goes on in the next column or overleaf where it does not fit. */
export function printRoll(roll: LicenceRoll): Buffer {
  const bytes = execFileSync('groff', ['-Tpdf', '-ms', '-K', 'utf8', '-P-pa4', '-dpaper=a4'], {
    input: source(roll),
    maxBuffer: 1 << 26,
  });
  // The day of printing is made that of the roll, so that the same file comes out every time.
  return Buffer.from(bytes.toString('latin1').replace(/D:\d{14}/g, `D:${roll.year}0115090000`), 'latin1');
}

/** The dataset that the rolls must become: a row a licence. */
export const expectedRolls = (rolls: readonly LicenceRoll[]): string =>
  stringify(
    [
      ['Roll', 'Licence', 'Holder', 'Address', 'Port', 'Vessels', 'Phone', 'Valid to'],
      ...rolls.flatMap(({ year, licences }) =>
        licences.map(({ number, holder, address, vessels, phone, validTo }) => {
          const [street, port] = address.split(', ');
          return [String(year), number, holder, street, port, vessels.map(vesselText).join('; '), phone ?? '', validTo];
        }),
      ),
    ],
    { record_delimiter: 'unix' },
  );
