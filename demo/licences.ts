import { random } from './random';

/** One licence to land fish. Lengths in decimetres; `null`: not stated. */
export interface Licence {
  readonly number: string;
  readonly holder: string;
  readonly address: string;
  readonly vessels: readonly { readonly name: string; readonly length: number }[];
  readonly phone: string | null;
  /** ISO date. */
  readonly validTo: string;
}

/** The licences in force in a year. */
export interface LicenceRoll {
  readonly year: number;
  readonly licences: readonly Licence[];
}

const given = [
  'Orrin',
  'Mira',
  'Tamsin',
  'Aldo',
  'Perrin',
  'Ysolde',
  'Corwin',
  'Della',
  'Hesper',
  'Ivo',
  'Junia',
  'Rafe',
];
const families = [
  'Vale',
  'Quarr',
  'Thrale',
  'Fenn',
  'Garth',
  'Hesk',
  'Lorton',
  'Usk',
  'Wragby',
  'Marr',
  'Carrow',
  'Bewick',
];
const streets = ['Tarry Lane', 'Net Street', 'Quay Steps', 'Cooper’s Row', 'Beacon Road', 'Salt Market'];
const ports = ['Saltby', 'Old Lantern', 'Marrow Bay', 'Tern Ness', 'Fairlead'];
const first = ['Grey', 'Hale', 'Far', 'Amber', 'Little', 'Silver', 'True', 'Old'];
const second = ['Gull', 'Otter', 'Lantern', 'Petrel', 'Maid', 'Rose', 'Curlew', 'Star'];

/** The roll of a year: five to seven lines a licence, as many vessels are named as there are. */
export function licenceRoll(year: number): LicenceRoll {
  const r = random(year * 17);
  let number = 100 + r.whole(1, 9);
  const licences = Array.from({ length: r.whole(72, 90) }, (): Licence => {
    number += r.whole(1, 4);
    const vessels = Array.from({ length: r.one([1, 1, 2, 2, 3]) }, () => ({
      name: `${r.one(first)} ${r.one(second)}`,
      length: r.whole(62, 318),
    }));
    return {
      number: `L-${String(number).padStart(4, '0')}`,
      holder: `${r.one(given)} ${r.one(families)}`,
      address: `${r.whole(1, 88)} ${r.one(streets)}, ${r.one(ports)}`,
      vessels,
      // One vessel and no phone would be four lines: such holders are asked for a phone.
      phone: vessels.length > 1 && r.chance(0.3) ? null : `555-${String(r.whole(100, 9999)).padStart(4, '0')}`,
      validTo: `${year + r.whole(0, 2)}-${r.one(['03-31', '06-30', '12-31'])}`,
    };
  });
  return { year, licences };
}

export const rollYears = [2023, 2024, 2025];
