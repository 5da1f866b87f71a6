import * as v from 'valibot';
import { areByRow, condition, describeCondition, neededBy, testOf } from './conditions';
import { field, hold, step, widget } from './step';

export const siftRows = step({
  kind: 'sift rows',
  title: 'Sift rows',
  group: 'rows',
  help: 'Holds the rows that match conditions on columns and row marks, or all others.',
  settings: {
    hold: field(v.optional(v.picklist(['the matching', 'all others']), 'the matching'), 'Hold'),
    when: field(v.optional(v.picklist(['all', 'any']), 'all'), 'When', 'All conditions must be true, or any of them.'),
    conditions: field(widget(v.array(condition), { widget: 'conditions', joinedBy: 'when' }), 'Conditions'),
  },
  commutesWithAppend: ({ conditions }) => areByRow(conditions),
  needs: ({ conditions }) => neededBy(conditions),
  describe: ({ hold, when, conditions }) =>
    `Hold ${hold}: ${conditions.map(describeCondition).join(when === 'all' ? ' and ' : ' or ') || 'no condition yet'}`,
  run(sheet, { hold: which, when, conditions }, around) {
    const tests = conditions.map((c) => testOf(sheet, c, around.papers));
    const problems = tests.filter((test) => typeof test !== 'function');
    // A condition on a column that is gone must not hold or pass rows by itself: the whole step waits for an answer.
    if (problems.length > 0 || conditions.length === 0) return { sheet, problems };
    const asked = tests.filter((test) => typeof test === 'function');
    const reason = `${which === 'the matching' ? 'matches' : 'does not match'}: ${conditions.map(describeCondition).join(when === 'all' ? ' and ' : ' or ')}`;
    return hold(sheet, around, (row) => {
      const matches = when === 'all' ? asked.every((test) => test(row)) : asked.some((test) => test(row));
      return matches === (which === 'the matching') ? reason : undefined;
    });
  },
});
