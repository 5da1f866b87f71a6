// Writes core/values/locales/*.json anew: marks, orders and month names from the platform's own locale data (CLDR), and
// the few words beside numbers and dates that it does not have.
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

const words = {
  en: {
    week: ['week', 'wk', 'w'],
    quarter: ['quarter', 'qtr', 'q'],
    half: ['half', 'h'],
    fiscal: ['fy', 'fiscal year', 'financial year', 'year'],
    yes: ['yes', 'y', 'true'],
    no: ['no', 'n', 'false'],
    nil: ['nil', 'none', 'n/a', 'na'],
    on: ['as at', 'as of', 'on', 'dated', 'at'],
    hours: ['h', 'hr', 'hrs', 'hour', 'hours'],
    minutes: ['m', 'min', 'mins', 'minute', 'minutes'],
    days: ['d', 'day', 'days'],
    seconds: ['s', 'sec', 'secs', 'second', 'seconds'],
    thousand: ['thousand', 'thousands'],
    million: ['million', 'millions', 'mn', 'mio', 'm'],
    billion: ['billion', 'billions', 'bn'],
  },
  de: {
    week: ['woche', 'kw'],
    quarter: ['quartal', 'q'],
    half: ['halbjahr', 'hj'],
    fiscal: ['geschäftsjahr', 'gj', 'wj'],
    yes: ['ja', 'j', 'wahr'],
    no: ['nein', 'n', 'falsch'],
    nil: ['keine', 'k. a.', 'k.a.', 'null'],
    on: ['per', 'am', 'vom', 'zum', 'stand'],
    hours: ['h', 'std', 'std.', 'stunde', 'stunden'],
    minutes: ['min', 'min.', 'minute', 'minuten'],
    days: ['d', 't', 'tag', 'tage'],
    seconds: ['s', 'sek', 'sek.', 'sekunden'],
    thousand: ['tausend', 'tsd', 'tsd.'],
    million: ['million', 'millionen', 'mio', 'mio.'],
    billion: ['milliarde', 'milliarden', 'mrd', 'mrd.'],
  },
  fr: {
    week: ['semaine', 'sem', 's'],
    quarter: ['trimestre', 'trim', 't'],
    half: ['semestre', 's'],
    fiscal: ['exercice'],
    yes: ['oui', 'o', 'vrai'],
    no: ['non', 'n', 'faux'],
    nil: ['néant', 'nd', 'n.d.', 'n.c.'],
    on: ['au', 'le', 'du'],
    hours: ['h', 'heure', 'heures'],
    minutes: ['min', 'mn', 'minute', 'minutes'],
    days: ['j', 'jour', 'jours'],
    seconds: ['s', 'seconde', 'secondes'],
    thousand: ['mille', 'milliers', 'k'],
    million: ['million', 'millions', 'm'],
    billion: ['milliard', 'milliards', 'md', 'mds'],
  },
  es: {
    week: ['semana', 'sem'],
    quarter: ['trimestre', 'trim', 't'],
    half: ['semestre', 's'],
    fiscal: ['ejercicio'],
    yes: ['sí', 'si', 's', 'verdadero'],
    no: ['no', 'n', 'falso'],
    nil: ['nada', 'n/d', 'n.d.'],
    on: ['a', 'al', 'el', 'del'],
    hours: ['h', 'hora', 'horas'],
    minutes: ['min', 'minuto', 'minutos'],
    days: ['d', 'día', 'días'],
    seconds: ['s', 'segundo', 'segundos'],
    thousand: ['mil', 'miles'],
    million: ['millón', 'millones', 'mill'],
    billion: ['mil millones'],
  },
  it: {
    week: ['settimana', 'sett'],
    quarter: ['trimestre', 'trim', 't'],
    half: ['semestre', 's'],
    fiscal: ['esercizio'],
    yes: ['sì', 'si', 's', 'vero'],
    no: ['no', 'n', 'falso'],
    nil: ['nessuno', 'n.d.', 'nd'],
    on: ['al', 'il', 'del'],
    hours: ['h', 'ora', 'ore'],
    minutes: ['min', 'minuto', 'minuti'],
    days: ['g', 'giorno', 'giorni'],
    seconds: ['s', 'secondo', 'secondi'],
    thousand: ['mila', 'migliaia', 'mille'],
    million: ['milione', 'milioni', 'mln'],
    billion: ['miliardo', 'miliardi', 'mld'],
  },
  nl: {
    week: ['week', 'wk'],
    quarter: ['kwartaal', 'kw', 'k'],
    half: ['halfjaar', 'h'],
    fiscal: ['boekjaar'],
    yes: ['ja', 'j', 'waar'],
    no: ['nee', 'n', 'onwaar'],
    nil: ['geen', 'nihil', 'n.v.t.', 'nvt'],
    on: ['per', 'op', 'van'],
    hours: ['u', 'uur', 'h'],
    minutes: ['min', 'minuut', 'minuten'],
    days: ['d', 'dag', 'dagen'],
    seconds: ['s', 'sec', 'seconden'],
    thousand: ['duizend', 'duizenden'],
    million: ['miljoen', 'mln'],
    billion: ['miljard', 'mld'],
  },
  sv: {
    week: ['vecka', 'v'],
    quarter: ['kvartal', 'kv', 'q'],
    half: ['halvår', 'h'],
    fiscal: ['räkenskapsår'],
    yes: ['ja', 'j', 'sant'],
    no: ['nej', 'n', 'falskt'],
    nil: ['inga', 'ingen', 'saknas'],
    on: ['per', 'den'],
    hours: ['h', 'tim', 'timme', 'timmar'],
    minutes: ['min', 'minut', 'minuter'],
    days: ['d', 'dag', 'dagar', 'dygn'],
    seconds: ['s', 'sek', 'sekunder'],
    thousand: ['tusen', 'tkr'],
    million: ['miljon', 'miljoner', 'mn', 'mkr'],
    billion: ['miljard', 'miljarder', 'md'],
  },
  pl: {
    week: ['tydzień', 'tydz'],
    quarter: ['kwartał', 'kw', 'k'],
    half: ['półrocze'],
    fiscal: ['rok obrotowy'],
    yes: ['tak', 't', 'prawda'],
    no: ['nie', 'n', 'fałsz'],
    nil: ['brak', 'b.d.', 'bd'],
    on: ['na dzień', 'z dnia', 'dnia'],
    hours: ['h', 'godz', 'godz.', 'godziny', 'godzin'],
    minutes: ['min', 'min.', 'minut', 'minuty'],
    days: ['d', 'dni', 'dzień'],
    seconds: ['s', 'sek', 'sekund'],
    thousand: ['tys', 'tys.', 'tysiące', 'tysiąc'],
    million: ['mln', 'milion', 'miliony'],
    billion: ['mld', 'miliard', 'miliardy'],
  },
  pt: {
    week: ['semana', 'sem'],
    quarter: ['trimestre', 'trim', 't'],
    half: ['semestre', 's'],
    fiscal: ['exercício'],
    yes: ['sim', 's', 'verdadeiro'],
    no: ['não', 'n', 'falso'],
    nil: ['nada', 'n/d', 'n.d.'],
    on: ['em', 'de', 'a'],
    hours: ['h', 'hora', 'horas'],
    minutes: ['min', 'minuto', 'minutos'],
    days: ['d', 'dia', 'dias'],
    seconds: ['s', 'segundo', 'segundos'],
    thousand: ['mil', 'milhares'],
    million: ['milhão', 'milhões', 'mi'],
    billion: ['bilhão', 'bilhões', 'bi'],
  },
  ja: {
    week: ['週', '第'],
    quarter: ['四半期', 'q'],
    half: ['半期'],
    fiscal: ['年度'],
    yes: ['はい', '有', '○'],
    no: ['いいえ', '無', '×'],
    nil: ['なし', '該当なし'],
    on: [],
    hours: ['時間', 'h'],
    minutes: ['分', 'min'],
    days: ['日'],
    seconds: ['秒', 's'],
    thousand: ['千', '千円'],
    million: ['百万', '百万円'],
    billion: ['十億', '十億円'],
  },
};

const spaces = [' ', '\u00a0', '\u202f', '\u2009'];
const names = [
  'en-GB',
  'en-US',
  'de-DE',
  'de-CH',
  'fr-FR',
  'es-ES',
  'it-IT',
  'nl-NL',
  'sv-SE',
  'pl-PL',
  'pt-BR',
  'en-IN',
  'ja-JP',
];

for (const name of names) {
  const parts = new Intl.NumberFormat(name).formatToParts(12345678.5);
  const part = (type) => parts.find((each) => each.type === type)?.value;
  const group = part('group') ?? ' ';
  const months = (options) =>
    Array.from(
      { length: 12 },
      (_, i) =>
        new Intl.DateTimeFormat(name, { ...options, timeZone: 'UTC' })
          .formatToParts(Date.UTC(2025, i, 15))
          .find((each) => each.type === 'month').value,
    );
  // The 6th of January 2025 was a Monday.
  const weekdays = (weekday) =>
    Array.from({ length: 7 }, (_, i) =>
      new Intl.DateTimeFormat(name, { weekday, timeZone: 'UTC' }).format(Date.UTC(2025, 0, 6 + i)).toLowerCase(),
    );
  const order = new Intl.DateTimeFormat(name)
    .formatToParts(0)
    .map(({ type }) => type)
    .filter((type) => ['day', 'month', 'year'].includes(type));
  const locale = {
    decimal: part('decimal'),
    groups: [...new Set([group, ...(name.endsWith('CH') ? ["'", '’'] : []), ...spaces])],
    grouping: name.endsWith('IN') ? [3, 2] : [3],
    dateOrder: order.join(' '),
    months: months({ day: 'numeric', month: 'long' }),
    monthsAlone: months({ month: 'long' }),
    monthsShort: months({ day: 'numeric', month: 'short' }),
    weekdays: weekdays('long'),
    weekdaysShort: weekdays('short'),
    ...words[name.slice(0, 2)],
  };
  const escaped = (value) =>
    JSON.stringify(value).replace(
      /[\u00a0\u202f\u2009]/g,
      (c) => `\\u${c.charCodeAt(0).toString(16).padStart(4, '0')}`,
    );
  const line = ([key, value]) =>
    `  ${JSON.stringify(key)}: ${Array.isArray(value) ? `[${value.map(escaped).join(', ')}]` : escaped(value)}`;
  writeFileSync(
    join(root, `core/values/locales/${name}.json`),
    `{\n${Object.entries(locale).map(line).join(',\n')}\n}\n`,
  );
}
