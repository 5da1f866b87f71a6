/** A small seeded generator (mulberry32): the same seed gives the same reports on every machine. */
export function random(seed: number) {
  let state = seed >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  const whole = (least: number, most: number) => least + Math.floor(next() * (most - least + 1));
  return {
    next,
    whole,
    chance: (part: number) => next() < part,
    some: <T>(from: readonly T[], count: number): T[] => {
      const rest = [...from];
      return Array.from(
        { length: Math.min(count, rest.length) },
        () => rest.splice(Math.floor(next() * rest.length), 1)[0],
      );
    },
    one: <T>(from: readonly T[]): T => from[Math.floor(next() * from.length)],
  };
}
