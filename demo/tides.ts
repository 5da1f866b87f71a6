import { random } from './random';

/** A high or low water: minutes after midnight, height in tenths of a metre. */
export interface Water {
  readonly at: number;
  readonly height: number;
}

export interface TideDay {
  readonly day: number;
  /** What flowed through the tide gates in each stretch of two hours, in hundreds of cubic metres; null: the gauge was out. */
  readonly flow: readonly (number | null)[];
  readonly high: readonly [Water, Water | null];
  readonly low: readonly [Water, Water | null];
}

/** A month at the tide gates. */
export interface TideMonth {
  readonly year: number;
  /** From 1. */
  readonly month: number;
  readonly days: readonly TideDay[];
}

export const tideMonths: readonly (readonly [year: number, month: number])[] = [
  [2025, 5],
  [2025, 6],
  [2025, 7],
];
/** The hour at which each stretch begins. */
export const hours = Array.from({ length: 12 }, (_, i) => i * 2);

const lunarDay = 24 * 60 + 50;

/** The flow and the tides of a month: the tide is half a lunar day later each time, the flow follows it. */
export function tideMonth(year: number, month: number): TideMonth {
  const r = random(year * 100 + month);
  const length = new Date(Date.UTC(year, month, 0)).getUTCDate();
  let next = r.whole(0, lunarDay / 2);
  const days = Array.from({ length }, (_, i): TideDay => {
    const waters = (phase: number, height: () => number): [Water, Water | null] => {
      const first = (next + phase) % (lunarDay / 2);
      const second = first + lunarDay / 2;
      return [
        { at: Math.round(first), height: height() },
        second < 24 * 60 ? { at: Math.round(second), height: height() } : null,
      ];
    };
    const spring = Math.cos((i / length) * 4 * Math.PI);
    const high = waters(0, () => 42 + Math.round(8 * spring) + r.whole(-2, 2));
    const low = waters(lunarDay / 4, () => 11 - Math.round(6 * spring) + r.whole(-2, 2));
    const flow = hours.map((hour) =>
      r.chance(0.015)
        ? null
        : Math.max(
            0,
            Math.round(900 + 800 * Math.cos(((hour * 60 - high[0].at) / lunarDay) * 4 * Math.PI) + r.whole(-60, 60)),
          ),
    );
    next = (next + lunarDay - 24 * 60) % (lunarDay / 2);
    return { day: i + 1, flow, high, low };
  });
  return { year, month, days };
}

/** What a row of the table of flows adds up to: the stretches that were measured. */
export const sumOf = (flow: readonly (number | null)[]): number =>
  flow.reduce<number>((sum, each) => sum + (each ?? 0), 0);
