import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { zones } from '../steps/step';
import { changesBetween, changeSentence } from './changes';
import { parsePipeline, type Pipeline } from './document';

const step = (id: string, more: object = {}) => ({
  id,
  kind: 'trim rows',
  name: `Step ${id}`,
  settings: { top: 1 },
  ...more,
});
const rule = (name: string, more: object = {}) => ({ name, heading: [name], ...more });
const document = (more: object = {}): Pipeline =>
  parsePipeline({
    format: 'able-sieve/pipeline',
    version: 1,
    name: 'Landings',
    take: [rule('Fish')],
    eachTable: [step('a'), step('b'), step('c')],
    eachReport: [step('d')],
    ...more,
  });
const said = (before: Pipeline, now: Pipeline) => changesBetween(before, now).map(changeSentence);

describe('what a version changed', () => {
  it.each<[string, object, string[]]>([
    [
      'a setting, by its label',
      { eachTable: [step('a', { settings: { top: 2, bottom: 1 } }), step('b'), step('c')] },
      ['“Step a”: From the top, From the bottom set otherwise'],
    ],
    ['a step added', { eachReport: [step('d'), step('e')] }, ['“Step e” added to each report']],
    ['a step taken out', { eachTable: [step('a'), step('c')] }, ['“Step b” taken out of each table']],
    ['the one step that moved', { eachTable: [step('b'), step('c'), step('a')] }, ['“Step a” moved within each table']],
    [
      'a step in another zone',
      { eachTable: [step('a'), step('b')], eachReport: [step('c'), step('d')] },
      ['“Step c” moved from each table to each report'],
    ],
    ['a step switched off', { eachTable: [step('a', { off: true }), step('b'), step('c')] }, ['“Step a” switched off']],
    [
      'exceptions',
      { eachTable: [step('a', { pass: [{ text: 'Total' }] }), step('b'), step('c')] },
      ['“Step a” lets other rows pass'],
    ],
    [
      'the rules',
      { take: [rule('Fish', { least: 0.9 }), rule('Crabs')] },
      ['Take rule “Fish” changed', 'Take rule “Crabs” added'],
    ],
    [
      'the name and the guide',
      { name: 'Sheets', guide: 'a.pdf' },
      ['Named “Sheets” instead of “Landings”', 'Another guide report'],
    ],
    [
      'what is told of reports',
      { reports: { template: 'week-{Week}.pdf', year: 2025 } },
      ['Reports: the template of file names, the year changed'],
    ],
  ])('is told in words: %s', (_, more, sentences) => expect(said(document(), document(more))).toEqual(sentences));

  it('is something exactly where the documents differ', () => {
    const ids = fc.uniqueArray(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 5 });
    const documents = fc
      .record({ eachTable: ids, off: fc.boolean() })
      .map(({ eachTable, off }) =>
        document({ eachTable: eachTable.map((id) => step(id, off ? { off } : {})), eachReport: [] }),
      );
    fc.assert(
      fc.property(documents, documents, (before, now) => {
        const differ = zones.some((zone) => JSON.stringify(before[zone]) !== JSON.stringify(now[zone]));
        expect(changesBetween(before, now).length > 0).toBe(differ);
      }),
    );
  });
});
