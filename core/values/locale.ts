import deCH from './locales/de-CH.json';
import deDE from './locales/de-DE.json';
import enGB from './locales/en-GB.json';
import enIN from './locales/en-IN.json';
import enUS from './locales/en-US.json';
import esES from './locales/es-ES.json';
import frFR from './locales/fr-FR.json';
import itIT from './locales/it-IT.json';
import jaJP from './locales/ja-JP.json';
import nlNL from './locales/nl-NL.json';
import plPL from './locales/pl-PL.json';
import ptBR from './locales/pt-BR.json';
import svSE from './locales/sv-SE.json';

/** How people of a place print numbers and dates: data only, written by `scripts/locales.mjs`. Words are in lower case. */
export interface Locale {
  readonly decimal: string;
  readonly groups: readonly string[];
  /** Sizes of digit groups from the decimal mark leftwards; the last one repeats. */
  readonly grouping: readonly number[];
  readonly dateOrder: string;
  /** As they stand beside a day, alone, and short. */
  readonly months: readonly string[];
  readonly monthsAlone: readonly string[];
  readonly monthsShort: readonly string[];
  /** From Monday on. */
  readonly weekdays: readonly string[];
  readonly weekdaysShort: readonly string[];
  readonly week: readonly string[];
  readonly quarter: readonly string[];
  readonly half: readonly string[];
  readonly fiscal: readonly string[];
  readonly yes: readonly string[];
  readonly no: readonly string[];
  /** Words printed for nothing. */
  readonly nil: readonly string[];
  /** Words before a date: "as at". */
  readonly on: readonly string[];
  readonly days: readonly string[];
  readonly hours: readonly string[];
  readonly minutes: readonly string[];
  readonly seconds: readonly string[];
  readonly thousand: readonly string[];
  readonly million: readonly string[];
  readonly billion: readonly string[];
}

export const locales = {
  'en-GB': enGB,
  'en-US': enUS,
  'de-DE': deDE,
  'de-CH': deCH,
  'fr-FR': frFR,
  'es-ES': esES,
  'it-IT': itIT,
  'nl-NL': nlNL,
  'sv-SE': svSE,
  'pl-PL': plPL,
  'pt-BR': ptBR,
  'en-IN': enIN,
  'ja-JP': jaJP,
} satisfies Record<string, Locale>;
export type LocaleName = keyof typeof locales;
export const localeNames = Object.keys(locales) as LocaleName[];

/** Words as they are compared: small letters, without the dot of an abbreviation. */
export const plainWord = (text: string): string => text.toLowerCase().replace(/\.$/, '');

const wordSets = new WeakMap<readonly string[], ReadonlySet<string>>();

/** Is the text one of the locale's words? */
export function isOneOf(words: readonly string[], text: string): boolean {
  let set = wordSets.get(words);
  if (!set) wordSets.set(words, (set = new Set(words.map(plainWord))));
  return set.has(plainWord(text));
}
