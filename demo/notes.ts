import { random } from './random';

/** One line of a stay. Units in tenths, rate and amount in hundredths. */
export interface NoteLine {
  readonly description: string;
  readonly units: number;
  readonly rate: number;
  readonly amount: number;
}

export interface Stay {
  readonly berth: string;
  readonly from: string;
  readonly to: string;
  readonly lines: readonly NoteLine[];
}

/** A note to a vessel: what it owes for its stays at the berths of the Board. */
export interface BerthNote {
  readonly number: string;
  /** ISO date. */
  readonly date: string;
  readonly vessel: string;
  readonly registered: string;
  readonly agent: string;
  readonly stays: readonly Stay[];
  readonly surcharges: readonly { readonly code: string; readonly name: string; readonly amount: number }[];
  readonly tides: readonly { readonly day: string; readonly times: readonly string[] }[];
  /** Set on narrow paper, where descriptions run up to the units without any white space. */
  readonly narrow: boolean;
}

const vessels = [
  'Ardent Gull',
  'Bright Curlew',
  'Cairn Star',
  'Far Lantern',
  'Grey Heron',
  'Hale Otter',
  'Island Maid',
  'Loyal Petrel',
  'Marsh Tern',
  'Silver Ness',
];
const agents = ['Tern & Quarr Agency', 'Saltby Ship Agents', 'Embleton Brothers', 'Lorton, Marr & Partners'];
const services: readonly [text: string, rate: number][] = [
  ['Berthing, quay side', 4210],
  ['Mooring by the night crew, two boats and four hands', 1875],
  ['Fresh water from the quay main, metered', 96],
  ['Shore power at the outer pontoon, day and night tariff', 238],
  ['Waste brought ashore in sealed drums, dry', 1140],
  ['Pilot from the bar to the berth', 5600],
  ['Crane with driver, per hour begun', 7325],
  ['Lines shifted on the ebb', 915],
  ['Berthing, second rank, vessel lying alongside another', 2950],
  ['Gangway and lights', 330],
];
const surcharges: readonly [code: string, name: string, rate: number][] = [
  ['W1', 'Weekend', 1250],
  ['N2', 'Night arrival', 2480],
  ['L4', 'Over length', 3975],
  ['H1', 'Harbour dues of the Board', 6110],
];

const [firstNumber, count] = [1041, 14];
/** The office ran out of the usual paper for these. */
const onNarrowPaper = new Set([1046, 1047, 1051]);

const iso = (date: Date) => date.toISOString().slice(0, 10);
const stamp = (date: Date) => `${iso(date)} ${date.toISOString().slice(11, 16)}`;
const time = (minutes: number) =>
  `${String(Math.floor(minutes / 60) % 24).padStart(2, '0')}:${String(minutes % 60).padStart(2, '0')}`;

/** The notes of a quarter, the same every time; no two of the same length. */
export function berthNotes(): BerthNote[] {
  return Array.from({ length: count }, (_, n): BerthNote => {
    const r = random(8100 + n);
    const number = firstNumber + n;
    const day = new Date(Date.UTC(2025, 3, 2 + n * 6, r.whole(2, 20), r.whole(0, 5) * 10));
    const narrow = onNarrowPaper.has(number);
    let at = day;
    const stays = Array.from({ length: n === 9 ? 11 : 1 + (n % 5) }, (): Stay => {
      const from = at;
      const to = new Date(from.getTime() + r.whole(9, 70) * 1_800_000);
      at = new Date(to.getTime() + r.whole(1, 9) * 600_000);
      const lines = r.some(services, r.whole(1, 5)).map(([description, rate]): NoteLine => {
        const units = r.whole(5, 640);
        return { description, units, rate, amount: Math.round((units * rate) / 10) };
      });
      return { berth: `${r.one(['N', 'S', 'W'])}${r.whole(1, 9)}`, from: stamp(from), to: stamp(to), lines };
    });
    return {
      number: `BN-${number}`,
      date: iso(new Date(at.getTime() + 86_400_000)),
      vessel: r.one(vessels),
      registered: String(r.whole(900, 48_000)).padStart(6, '0'),
      agent: r.one(agents),
      stays,
      surcharges: r
        .some(surcharges, 1 + (n % 3))
        .map(([code, name, rate]) => ({ code, name, amount: rate * r.whole(1, 3) })),
      tides: Array.from({ length: 2 + (n % 2) }, (_, i) => {
        const first = r.whole(30, 360);
        return {
          day: iso(new Date(day.getTime() + i * 86_400_000)),
          times: [first, first + 372, first + 745, first + 1117].map(time),
        };
      }),
      narrow,
    };
  });
}

export const totalOf = (lines: readonly { readonly amount: number }[]) =>
  lines.reduce((sum, { amount }) => sum + amount, 0);
