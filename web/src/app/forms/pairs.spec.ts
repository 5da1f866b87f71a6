import { withPair, withPasted } from './pairs';

describe('pairs of values and what they become', () => {
  it('gather the values that become the same, and drop those that stay', () => {
    const two = withPair([{ from: ['Y'], to: 'yes' }], 'y.', 'yes');
    expect(two).toEqual([{ from: ['Y', 'y.'], to: 'yes' }]);
    expect(withPair(two, 'Y', 'no')).toEqual([{ from: ['y.'], to: 'yes' }, { from: ['Y'], to: 'no' }]);
    expect(withPair([{ from: ['Y'], to: 'yes' }], 'Y', undefined)).toEqual([]);
  });

  it('come from a pasted list, in the order of those there or as old and new', () => {
    expect(withPasted([], 'Item\n\nValue', ['Code', 'Boxes', 'Wt'])).toEqual([{ from: ['Code'], to: 'Item' }, { from: ['Wt'], to: 'Value' }]);
    expect(withPasted([], 'Wt\tWeight\nCode\t', ['Code', 'Boxes', 'Wt'])).toEqual([{ from: ['Wt'], to: 'Weight' }, { from: ['Code'], to: '' }]);
  });
});
