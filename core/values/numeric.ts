const currency = String.raw`(?:R\$|US\$|A\$|CA\$|NZ\$|HK\$|kr\.?|zł|Fr\.|Rs\.?|Kč|Ft|CHF|EUR|USD|GBP|JPY|INR|SEK|NOK|DKK|PLN|BRL|CZK)`;
const amount = new RegExp(
  String.raw`^${currency}?[\s(+\-−–—±€$£¥<>≤≥≈~]*(?:${currency}\s?)?[(+\-−–]?\d(?:[\d\s.,'’\u00a0\u202f\u2009/:±]|(?<=\d)–(?=\d)|(?<=\d)[eE][-+−]?(?=\d)|\s?×\s?(?=10))*[)\s%‰€$£¥+\-−–⁰¹²³⁴⁵⁶⁷⁸⁹*†‡]*${currency}?(?:(?:cr|dr|CR|DR|Cr|Dr|S|H)\.?)?$`,
);

/** Does a printed text look like an amount: digits with their marks, signs before or after, marks of debit and credit, bounds, spreads, signs and codes of currencies, brackets, or a dash for nil? */
export const looksNumeric = (text: string): boolean => amount.test(text) || looksNil(text);

export const looksNil = (text: string): boolean => /^(?:[-–—−.·]{1,3}|n\/?[ak]\.?|n\.a\.)$/i.test(text.trim());
