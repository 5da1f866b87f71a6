import type { LocaleName } from '../values/locale';

/** Words that business papers of a language print, and the others do not, as regular expressions find them in a line. */
const words: readonly (readonly [LocaleName, string])[] = [
  ['en-GB', 'the|of|and|for|from|by|with|date|amount|quantity|price|value|week|month|year|report|account|balance|number|description'],
  ['de-DE', 'der|die|das|und|für|von|vom|im|betrag|datum|menge|preis|wert|woche|monat|jahr|bericht|konto|saldo|anzahl|bezeichnung|artikel|summe|gesamt|stand|übersicht|quartal'],
  ['fr-FR', 'le|les|du|des|et|pour|au|aux|montant|quantité|prix|valeur|semaine|mois|année|rapport|compte|solde|nombre|désignation|libellé|relevé|navire|droits'],
  ['es-ES', 'el|los|las|del|y|por|para|importe|importes|fecha|cantidad|precio|semana|mes|año|informe|cuenta|ingresos|gastos|presupuesto|concepto|descripción|euros|trimestre'],
  ['it-IT', 'il|gli|della|dei|delle|e|importo|quantità|prezzo|valore|settimana|mese|anno|rapporto|conto|numero|descrizione|fattura'],
  ['nl-NL', 'het|een|van|voor|bedrag|aantal|prijs|waarde|maand|jaar|verslag|rekening|omschrijving|totaal|overzicht|kwartaal'],
  ['sv-SE', 'och|för|från|belopp|antal|pris|värde|vecka|månad|år|konto|benämning|kvartal|översikt'],
  ['pl-PL', 'i|oraz|dla|od|do|za|kwota|ilość|cena|wartość|tydzień|miesiąc|rok|raport|konto|nazwa|zestawienie|razem|kwartał'],
  ['pt-BR', 'os|as|da|dos|das|para|quantidade|preço|valor|mês|ano|relatório|conta|saldo|descrição|receitas|despesas'],
];
const patterns = words.map(([name, of]) => [name, new RegExp(`(?<!\\p{L})(?:${of})(?!\\p{L})`, 'giu')] as const);

/** So many of its words, and twice as many as of the next, tell a language: one may stand in any paper. */
const fewest = 2;

/** The language that texts are written in, as far as common words tell; undefined where they do not. */
export function languageOf(texts: readonly string[]): LocaleName | undefined {
  const all = texts.join('\n');
  const counts = patterns.map(([name, pattern]) => ({ name, count: new Set(Array.from(all.matchAll(pattern), ([word]) => word.toLowerCase())).size })).sort((a, b) => b.count - a.count);
  const [first, second] = counts;
  return first.count >= fewest && first.count >= 2 * second.count ? first.name : undefined;
}
