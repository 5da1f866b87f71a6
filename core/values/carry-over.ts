/**
 * What heads a sum that a page carries on to the next, as bookkeepers of several languages put it: such a row sums up what came so
 * far and ends nothing.
 */
export const carryOverWords =
  /^(?:(?:total\s+|amount\s+|balance\s+)?(?:carried|brought)\s+(?:forward|over|down)|[cb]\s?\/\s?[fd]\b|übertrag|à reporter|report(?:ed)?\s+(?:à nouveau|de la page)|suma y sigue|suma anterior|(?:da|a)\s+riportare|riporto|transporte?|a transportar|(?:do|z)\s+przeniesienia|transporteren|te transporteren)(?![a-zà-ž])/i;

/** What heads the balance that an account begins with. */
export const openingWords =
  /^(?:(?:opening|starting|initial|previous)\s+balance|balance\s+at\s+(?:the\s+)?(?:start|beginning)|anfangssaldo|(?:alter|vorheriger)\s+saldo|solde\s+(?:initial|précédent|d['’]ouverture|de\s+départ)|saldo\s+(?:inicial|anterior|iniziale|precedente|początkowe|otwarcia)|beginsaldo)(?![a-zà-ž])/i;

/** What heads the balance that it ends with. */
export const closingWords =
  /^(?:(?:closing|ending|final|new)\s+balance|balance\s+at\s+(?:the\s+)?(?:end|close)|endsaldo|neuer\s+saldo|solde\s+(?:final|nouveau|de\s+clôture)|nouveau\s+solde|saldo\s+(?:final|finale|nuevo|końcowe|zamknięcia)|eindsaldo)(?![a-zà-ž])/i;

/** What stands behind a label or a title where the page cut what it heads: "Saltby (continued)". */
export const continuedWords =
  /(?<!\p{L})(?:continued|cont['’]?d|cont|fortsetzung|forts|suite|vervolg|continua|continuación|continuação|ciąg dalszy|c\.d|segue)(?!\p{L})/iu;
/** In brackets any of the words says so; behind a comma or a dash those that mean nothing else: a "suite" may be rooms. */
const continuedMark = new RegExp(
  `\\s*(?:[(\\[]\\s*${continuedWords.source}\\.?\\s*[)\\]]|[-–,]\\s*(?:continued|cont['’]?d|fortsetzung|continuación|continuação|ciąg dalszy)\\.?)$`,
  'iu',
);

/** The label that goes on, without what says so; undefined where it does not. */
export function labelThatGoesOn(text: string): string | undefined {
  const bare = text.replace(continuedMark, '').trim();
  return bare === '' || bare === text.trim() ? undefined : bare;
}
