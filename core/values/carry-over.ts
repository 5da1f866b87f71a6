/**
 * What heads a sum that a page carries on to the next, as bookkeepers of several languages put it: such a row sums up what came so
 * far and ends nothing.
 */
export const carryOverWords = /^(?:(?:total\s+|amount\s+|balance\s+)?(?:carried|brought)\s+(?:forward|over|down)|[cb]\s?\/\s?[fd]\b|übertrag|à reporter|report(?:ed)?\s+(?:à nouveau|de la page)|suma y sigue|suma anterior|(?:da|a)\s+riportare|riporto|transporte?|a transportar|(?:do|z)\s+przeniesienia|transporteren|te transporteren)(?![a-zà-ž])/i;
