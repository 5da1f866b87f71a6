import { random } from './random';

/** One line of a landing sheet. Money and weights in hundredths and tenths, so that sums are exact. */
export interface Landing {
  readonly code: string;
  readonly species: string;
  readonly boxes: number;
  /** Tenths of a kilogram; undefined: left blank; null: a dash is printed. */
  readonly gutted: number | null | undefined;
  readonly whole: number | null | undefined;
  /** Hundredths per kilogram. */
  readonly price: number;
  readonly marked: boolean;
  /** Hundredths. */
  readonly value: number;
  /** Tenths of a tonne; printed from week 28 on. */
  readonly quotaLeft: number;
}

export interface QuayLandings {
  readonly quay: string;
  readonly landings: readonly Landing[];
}

export interface VesselCall {
  readonly vessel: string;
  readonly berth: string;
  readonly arrived: string;
  readonly hours: number;
}

export interface LandingSheet {
  readonly week: number;
  readonly revision: number;
  /** ISO date of the Saturday. */
  readonly ending: string;
  readonly quays: readonly QuayLandings[];
  readonly calls: readonly VesselCall[];
  readonly withQuota: boolean;
  /** Heading of the boxes column: spelled differently in one week. */
  readonly boxesHeading: string;
  /** Hundredths by which one printed total is wrong: the planted misprint. */
  readonly misprint: number;
}

export const quays = ['Saltby', 'Tern Point', 'Old Lantern', 'Marrow Quay'];

const species: readonly [code: string, name: string, price: number][] = [
  ['HK1', 'Lantern hake', 415], ['HK2', 'Lantern hake, small', 210], ['SL1', 'Grey sole, large', 1120], ['SL2', 'Grey sole', 780],
  ['CR1', 'Tide crab', 640], ['CR4', 'Rock crab', 295], ['MK1', 'Blue mackerel', 122], ['MK2', 'Blue mackerel, small', 88],
  ['SQ1', 'Harbour squid', 560], ['SQ2', 'Night squid', 615], ['CD1', 'Fell cod', 505], ['CD2', 'Fell cod, medium', 430],
  ['CD3', 'Fell cod, small', 345], ['HD1', 'Bar haddock', 318], ['HD2', 'Bar haddock, small', 204], ['WH1', 'Silver whiting', 156],
  ['PL1', 'Marsh plaice', 372], ['PL2', 'Marsh plaice, small', 248], ['TB1', 'Stone turbot', 1485], ['BR1', 'Reef brill', 1010],
  ['GN1', 'Red gurnard', 174], ['LG1', 'Deep ling', 288], ['MN1', 'Monk tails', 935], ['RY1', 'Cuckoo ray', 266],
  ['LB1', 'Black lobster', 2150], ['PR1', 'Creel prawn', 1325],
]; // prettier-ignore

const vessels = [
  'Ardent Gull',
  'Blue Petrel',
  'Cairn Star',
  'Dawn Treaty',
  'Elder Rose',
  'Fair Venture',
  'Grey Heron',
  'Haven Light',
  'Island Maid',
  'Jolly Tern',
  'Kestrel Bay',
  'Lantern Rock',
];

const iso = (date: Date) => date.toISOString().slice(0, 10);
const mondayOf = (week: number) => new Date(Date.UTC(2024, 11, 30) + (week - 1) * 7 * 86_400_000);
const addDays = (date: Date, days: number) => new Date(date.getTime() + days * 86_400_000);

const firstQuotaWeek = 28;
const oddHeadingWeek = 30;
const misprintWeek = 29;

/** What one week's landing sheet says; a later revision corrects some lines. */
export function landingSheet(week: number, revision = 0): LandingSheet {
  const draw = random(week * 7919);
  const monday = mondayOf(week);
  const sheetQuays = quays.map((quay) => {
    const landings = draw
      .some(species, draw.whole(11, 22))
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([code, name, usual]): Landing => {
        const boxes = draw.whole(3, 240);
        const whole = boxes * draw.whole(190, 330);
        const how = draw.next();
        const gutted = how < 0.12 ? undefined : how < 0.2 ? null : Math.round(whole * 0.9);
        const onlyGutted = how > 0.93;
        const price = usual + draw.whole(-20, 40);
        return {
          code,
          species: name,
          boxes,
          gutted,
          whole: onlyGutted ? null : whole,
          price,
          marked: draw.chance(0.06),
          value: Math.round(((onlyGutted ? gutted! : whole) * price) / 10),
          quotaLeft: draw.whole(0, 4200),
        };
      });
    if (draw.chance(0.4)) landings.push(correction(week, draw.whole(1, 6), draw.whole(200, 320)));
    return { quay, landings };
  });
  const calls = draw.some(vessels, draw.whole(5, 9)).map((vessel): VesselCall => ({
    vessel,
    berth: `${draw.one(['N', 'S', 'W'])}${draw.whole(1, 9)}`,
    arrived: iso(addDays(monday, draw.whole(0, 5))),
    hours: draw.whole(4, 60),
  }));
  return {
    week,
    revision,
    ending: iso(addDays(monday, 5)),
    quays: revision > 0 ? revised(sheetQuays) : sheetQuays,
    calls,
    withQuota: week >= firstQuotaWeek,
    boxesHeading: week === oddHeadingWeek ? 'No. of boxes' : 'Boxes',
    misprint: week === misprintWeek ? 4000 : 0,
  };
}

const correction = (week: number, boxes: number, price: number): Landing => {
  const whole = boxes * 311;
  return {
    code: 'ADJ',
    species: `Correction wk ${week - 1}`,
    boxes: -boxes,
    gutted: -boxes * 280,
    whole: -whole,
    price,
    marked: false,
    value: -Math.round((whole * price) / 10),
    quotaLeft: 0,
  };
};

/** The revision corrects the first line of every quay. */
const revised = (sheetQuays: readonly QuayLandings[]): QuayLandings[] =>
  sheetQuays.map(({ quay, landings }) => ({
    quay,
    landings: landings.map((landing, i) =>
      i === 0 ? { ...landing, boxes: landing.boxes + 3, value: landing.value + 12_345 } : landing,
    ),
  }));

export const total = (landings: readonly Landing[], of: (landing: Landing) => number | null | undefined): number =>
  landings.reduce((sum, landing) => sum + (of(landing) ?? 0), 0);
