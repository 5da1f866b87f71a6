/** Does a printed text look like an amount: digits with their marks, signs before or after, marks of debit and credit, bounds, spreads, units of currency, brackets, or a dash for nil? */
export const looksNumeric = (text: string): boolean =>
  /^[\s(+\-−–—±€$£¥<>≤≥≈~]*\d(?:[\d\s.,'’\u00a0\u202f\u2009/:±]|(?<=\d)–(?=\d)|(?<=\d)[eE][-+−]?(?=\d)|\s?×\s?(?=10))*[)\s%‰€$£¥+\-−–⁰¹²³⁴⁵⁶⁷⁸⁹*†‡]*(?:(?:cr|dr|CR|DR|Cr|Dr|S|H)\.?)?$/.test(text) || looksNil(text);

export const looksNil = (text: string): boolean => /^(?:[-–—−.·]{1,3}|n\/?[ak]\.?|n\.a\.)$/i.test(text.trim());
