import { random } from './random';

/** One vessel as registered. Lengths in centimetres; tonnages whole; dues in hundredths; `null`: not stated. */
export interface Vessel {
  readonly number: string;
  readonly name: string;
  readonly port: string;
  readonly type: string;
  readonly length: number;
  readonly gross: number;
  readonly built: number | null;
  readonly owner: string;
  readonly dues: number | null;
}

const first = [
  'Amber',
  'Ardent',
  'Bright',
  'Cairn',
  'Calm',
  'Elder',
  'Fair',
  'Far',
  'Fell',
  'Golden',
  'Grey',
  'Hale',
  'Island',
  'Jolly',
  'Keen',
  'Little',
  'Loyal',
  'Marsh',
  'North',
  'Old',
  'Quick',
  'Silver',
  'Stout',
  'True',
  'Wild',
];
const second = [
  'Auk',
  'Bay',
  'Beacon',
  'Bell',
  'Curlew',
  'Dunlin',
  'Fern',
  'Gannet',
  'Gull',
  'Heron',
  'Holm',
  'Lantern',
  'Lass',
  'Maid',
  'Ness',
  'Otter',
  'Petrel',
  'Rock',
  'Rose',
  'Skerry',
  'Star',
  'Tern',
  'Tide',
  'Wren',
];
const ports = [
  'Saltby',
  'Old Lantern',
  'Marrow Bay',
  'Kelder Mouth',
  'Gannet Holm',
  'Tern Ness',
  'Whin Cove',
  'Fairlead',
  'Scaur End',
  'Long Strand',
];
const types = [
  'Trawler',
  'Creeler',
  'Netter',
  'Coaster',
  'Pilot boat',
  'Tug',
  'Work boat',
  'Ferry',
  'Yacht',
  'Dredger',
];
const families = [
  'Arkle',
  'Bewick',
  'Carrow',
  'Dunstan',
  'Embleton',
  'Fenn',
  'Garth',
  'Hesk',
  'Ingram',
  'Lorton',
  'Marr',
  'Nairnside',
  'Orrin',
  'Pelham-Rigg',
  'Quarr',
  'Rudd',
  'Selkirk-Moor',
  'Thrale',
  'Usk',
  'Wragby',
];

/** The vessels of the register in order of their numbers, the same every time. Numbers have leading zeros, and gaps where a vessel was struck off. */
export function vessels(count: number): Vessel[] {
  const r = random(2025);
  let number = 17;
  return Array.from({ length: count }, () => {
    number += r.whole(1, 6);
    const length = r.whole(420, 9800);
    const owner = r.chance(0.3)
      ? `${r.one(families)} & ${r.one(['Sons', 'Daughters', 'Partners'])}`
      : r.chance(0.3)
        ? `${r.one(ports)} ${r.one(['Fishing', 'Towing', 'Shipping'])} Company`
        : `${String.fromCharCode(65 + r.whole(0, 25))}. ${r.one(families)}`;
    return {
      number: String(number).padStart(6, '0'),
      name: `${r.one(first)} ${r.one(second)}${r.chance(0.15) ? ` ${r.one(['II', 'III', 'IV'])}` : ''}`,
      port: r.one(ports),
      type: r.one(types),
      length,
      gross: Math.max(2, Math.round((length / 100) ** 2 * (0.3 + r.next()))),
      built: r.chance(0.04) ? null : r.whole(1931, 2024),
      owner,
      dues: r.chance(0.06) ? null : r.whole(2500, 980_000),
    };
  });
}
