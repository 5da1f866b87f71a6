import deDE from './locales/de-DE.json';
import enGB from './locales/en-GB.json';
import enUS from './locales/en-US.json';

/** How people of a place print numbers and dates: data only. */
export interface Locale {
  readonly decimal: string;
  readonly groups: readonly string[];
  readonly dateOrder: string;
  readonly months: readonly string[];
  readonly monthsShort: readonly string[];
  readonly week: readonly string[];
  readonly yes: readonly string[];
  readonly no: readonly string[];
}

export const locales = { 'en-GB': enGB, 'en-US': enUS, 'de-DE': deDE } satisfies Record<string, Locale>;
export type LocaleName = keyof typeof locales;
export const localeNames = Object.keys(locales) as LocaleName[];
