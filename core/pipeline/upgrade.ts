import { zones } from '../steps/step';

type Plain = Record<string, unknown>;
const isPlain = (value: unknown): value is Plain =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** How steps of older programs are said today, by their kind. */
const upgrades = new Map<unknown, (step: Plain) => Plain>(
  Object.entries({
    'carry values down': (step: Plain): Plain => ({ ...step, kind: 'carry values' }),
    'drop repeated headings': (step: Plain): Plain => ({
      ...step,
      kind: 'drop noise',
      settings: { dashes: false, pages: false, headings: true, headingRows: settingsOf(step)['rows'] ?? 0 },
    }),
    'lift sections': (step: Plain): Plain => {
      const { into, known, pattern, ...rest } = settingsOf(step);
      return into === undefined
        ? step
        : {
            ...step,
            settings: {
              ...rest,
              levels: [
                { into, ...(known === undefined ? {} : { known }), ...(pattern === undefined ? {} : { pattern }) },
              ],
            },
          };
    },
    'lines to records': (step: Plain): Plain =>
      settingsOf(step)['begins'] === 'after a blank row'
        ? { ...step, settings: { ...settingsOf(step), begins: 'after a blank line' } }
        : step,
    'split column': (step: Plain): Plain => {
      const { where, nth, counted, ...rest } = settingsOf(step);
      return where === 'after so many letters'
        ? {
            ...step,
            settings: { ...rest, where: 'at cuts', cuts: [Number(nth ?? 1) * (counted === 'from the right' ? -1 : 1)] },
          }
        : step;
    },
  }),
);
const settingsOf = (step: Plain): Plain => (isPlain(step['settings']) ? step['settings'] : {});

/** A document of an older program in today's words; anything else is handed on as it is, for the schema to judge. */
export function upgraded(document: unknown): unknown {
  if (!isPlain(document)) return document;
  const next: Plain = { ...document };
  for (const zone of zones) {
    const steps = document[zone];
    if (Array.isArray(steps))
      next[zone] = steps.map((step: unknown) => (isPlain(step) ? (upgrades.get(step['kind'])?.(step) ?? step) : step));
  }
  return next;
}
