import { describe, expect, it } from 'vitest';
import { takeTables } from '../intake/take';
import { ruleOf } from '../intake/take-rule';
import { carryReport } from '../pipeline/carry';
import { parsePipeline } from '../pipeline/document';
import { findTables } from '../reading/find-tables';
import { plain } from '../testing/sheets';
import { page, words } from '../testing/print';
import { kinds } from '../steps/kinds';
import { offersForWord } from './for-word';

const lines = [
  'Northreach Harbour Board             Week ending 31 May 2025',
  'Note number: BN-1041',
  '',
  'Code      Boxes     Weight',
  'HK1          12      101.5',
  'SL2           8       33.0',
  'CD3          31      240.9',
];
const content = page(words(lines));
const read = { key: 'r1', path: 'a.pdf', pages: [content], tables: findTables([content]) };
const pipeline = parsePipeline({
  format: 'able-sieve/pipeline',
  version: 1,
  name: 'W',
  take: [{ name: 'T', heading: ['Code', 'Boxes', 'Weight'] }],
});
const { sheet, paper } = carryReport(pipeline, read);
const around = { papers: () => paper, letPass: () => false, lists: () => undefined };
const offersAt = (text: string) =>
  offersForWord(
    sheet,
    { page: content, lines: paper.lines(1), word: content.words.findIndex((word) => word.text === text) },
    around,
  );
/** The first row once the offer is taken. */
const taken = ({ kind, settings }: ReturnType<typeof offersAt>[number]) =>
  plain(kinds.get(kind)!.run(sheet, settings, around).sheet)[1];

describe('a word on the paper that no table has', () => {
  it('is put beside every row, known by its label', () => {
    expect(takeTables([ruleOf({ name: 'T', heading: ['Code'] })], read).taken).toHaveLength(1);
    const [labelled] = offersAt('BN-1041');
    expect(labelled.says).toBe('put “BN-1041” beside every row: what stands beside “Note number:”');
    expect(taken(labelled)[0]).toBe('BN-1041');
  });

  it('or by the line that it stands in, its date whole, without what stands far beside it', () => {
    const offered = offersAt('May').find(({ settings }) => settings['from'] === 'page text')!;
    expect(offered.settings).toMatchObject({ template: 'Week ending {Week ending}' });
    expect(taken(offered)[0]).toBe('31 May 2025');
  });

  it('is offered nothing where it stands alone', () => {
    const alone = page(words(['Draft', '', ...lines.slice(3)]));
    const own = carryReport(pipeline, { ...read, pages: [alone], tables: findTables([alone]) });
    expect(
      offersForWord(
        own.sheet,
        { page: alone, lines: own.paper.lines(1), word: 0 },
        { ...around, papers: () => own.paper },
      ),
    ).toEqual([]);
  });
});
