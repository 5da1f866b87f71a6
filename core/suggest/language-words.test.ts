import { describe, expect, it } from 'vitest';
import { languageOf } from './language-words';

describe('the language of a paper', () => {
  it.each([
    ['nl-NL', ['Omzet per week', 'Bedragen in euro', 'Code', 'Afdeling', 'Totaal']],
    ['sv-SE', ['Fångst per dag', 'Datum', 'Vikt (kg)', 'Pris']],
    ['pt-BR', ['Vendas do mês', 'Cliente', 'Valor']],
    ['en-GB', ['Sales by customer', 'Week', 'Total of the year']],
  ])('is told by its common words: %s', (name, texts) => expect(languageOf(texts)).toBe(name));

  it('is not told by one word, nor by words that several have', () => {
    expect(languageOf(['Saltby', 'Totaal'])).toBeUndefined();
    expect(languageOf(['Total', 'Cliente', 'Peso'])).toBeUndefined();
  });
});
