import { kinds } from '../../../../core/steps/kinds';
import { everydayWords } from './everyday-words';

describe('everyday words', () => {
  it('are there for every kind of step, and for none that there is not', () => {
    expect(new Set(Object.keys(everydayWords))).toEqual(new Set(kinds.keys()));
  });

  it.each(['filter', 'remove', 'delete', 'fill', 'merge', 'join', 'clean', 'lookup', 'type', 'group', 'replace', 'split', 'order', 'duplicates', 'total', 'header'])('lead from “%s” to a kind', (word) => {
    expect(Object.values(everydayWords).some((words) => words.split(' ').includes(word))).toBe(true);
  });
});
