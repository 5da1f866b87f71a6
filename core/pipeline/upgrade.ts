import { zones } from '../steps/step';

/** Kinds that were called otherwise once. */
const renamedKinds: Record<string, string> = { 'carry values down': 'carry values' };

type Plain = Record<string, unknown>;
const isPlain = (value: unknown): value is Plain => typeof value === 'object' && value !== null && !Array.isArray(value);

/** A document of an older program in today's words; anything else is handed on as it is, for the schema to judge. */
export function upgraded(document: unknown): unknown {
  if (!isPlain(document)) return document;
  const next: Plain = { ...document };
  for (const zone of zones) {
    const steps = document[zone];
    if (Array.isArray(steps)) next[zone] = steps.map((step: unknown) => (isPlain(step) && renamedKinds[String(step['kind'])] ? { ...step, kind: renamedKinds[String(step['kind'])] } : step));
  }
  return next;
}
