import type { LocaleName } from '../values/locale';

/** Words that business papers of a language print, as regular expressions find them in a line. */
const words: readonly (readonly [LocaleName, string])[] = [
  [
    'en-GB',
    'the|of|and|for|from|by|with|date|amount|quantity|price|value|week|month|year|report|account|balance|number|description|weight|customer|invoice|vessel|sales|hours|total',
  ],
  [
    'de-DE',
    'der|die|das|und|für|von|vom|im|je|zum|nach|betrag|datum|menge|preis|wert|woche|monat|jahr|bericht|konto|saldo|anzahl|bezeichnung|artikel|summe|gesamt|stand|übersicht|quartal|kunde|rechnung|umsatz|einheit|stück|gewicht|schiff|hafen|tag',
  ],
  [
    'fr-FR',
    'le|les|du|des|et|pour|au|aux|par|sur|montant|quantité|prix|valeur|semaine|mois|année|rapport|compte|solde|nombre|désignation|libellé|relevé|navire|droits|client|facture|poids|unité|ventes|jour|total',
  ],
  [
    'es-ES',
    'el|los|las|del|y|por|para|con|importe|importes|fecha|cantidad|precio|semana|mes|año|informe|cuenta|ingresos|gastos|presupuesto|concepto|descripción|euros|trimestre|cliente|factura|unidad|peso|buque|ventas|día|total',
  ],
  [
    'it-IT',
    'il|gli|della|dei|delle|e|per|al|importo|quantità|prezzo|valore|settimana|mese|anno|rapporto|conto|numero|descrizione|fattura|nave|giorno|vendite|totale|peso|cliente',
  ],
  [
    'nl-NL',
    'het|een|van|voor|op|met|per|bedrag|bedragen|aantal|prijs|waarde|week|datum|maand|jaar|verslag|rekening|omschrijving|totaal|overzicht|kwartaal|omzet|afdeling|klant|factuur|stuks|gewicht|schip|haven|dag|verkoop|voorraad',
  ],
  [
    'sv-SE',
    'och|för|från|av|på|med|per|belopp|antal|pris|värde|vecka|månad|år|konto|benämning|kvartal|översikt|summa|kund|faktura|vikt|fartyg|hamn|dag|försäljning',
  ],
  [
    'pl-PL',
    'i|oraz|dla|od|do|za|w|na|kwota|ilość|cena|wartość|tydzień|miesiąc|rok|raport|konto|nazwa|zestawienie|razem|kwartał|klient|faktura|waga|statek|port|dzień|sprzedaż|jednostka|suma',
  ],
  [
    'pt-BR',
    'os|as|da|do|dos|das|para|com|quantidade|preço|valor|mês|ano|relatório|conta|saldo|descrição|receitas|despesas|cliente|fatura|peso|navio|porto|dia|vendas|unidade|total',
  ],
];
const languagesOf = (word: string): number => words.filter(([, of]) => of.split('|').includes(word)).length;
/** What several print tells none of them. */
const patterns = words.map(
  ([name, of]) =>
    [
      name,
      new RegExp(
        `(?<!\\p{L})(?:${of
          .split('|')
          .filter((word) => languagesOf(word) === 1)
          .join('|')})(?!\\p{L})`,
        'giu',
      ),
    ] as const,
);

/** So many of its words, and twice as many as of the next, tell a language: one may stand in any paper. */
const fewest = 2;

/** The language that texts are written in, as far as common words tell; undefined where they do not. */
export function languageOf(texts: readonly string[]): LocaleName | undefined {
  const all = texts.join('\n');
  const counts = patterns
    .map(([name, pattern]) => ({
      name,
      count: new Set(Array.from(all.matchAll(pattern), ([word]) => word.toLowerCase())).size,
    }))
    .sort((a, b) => b.count - a.count);
  const [first, second] = counts;
  return first.count >= fewest && first.count >= 2 * second.count ? first.name : undefined;
}
