import { withColumn, withList, type LookUpSettings } from './look-up-settings';

const begun: LookUpSettings = { from: { is: 'file', name: '' }, keys: [], columns: [], missing: 'pass and are told', twice: 'is a misfit' };
const list = { is: 'file' as const, name: 'kinds.csv', columns: ['Kind', 'CODE', 'Days'] };

describe('the settings of a look-up', () => {
  it('find rows by the first column that both have, when a list is chosen', () => {
    expect(withList(begun, list, ['Quay', 'Code', 'Days'])).toEqual({ ...begun, from: { is: 'file', name: 'kinds.csv' }, keys: [{ column: 'Code', of: 'CODE' }] });
    expect(withList(begun, list, ['Quay']).keys).toEqual([]);
  });

  it('keep the keys and columns that another list has as well', () => {
    const set = { ...begun, keys: [{ column: 'Species code', of: 'Code' }], columns: [{ name: 'Days', into: 'Open' }, { name: 'Weight', into: '' }] };
    expect(withList(set, list, ['Code'])).toMatchObject({ keys: set.keys, columns: [{ name: 'Days', into: 'Open' }] });
  });

  it('bring columns in the order of the list, and keep what each becomes', () => {
    const one = withColumn({ ...begun, columns: [{ name: 'Days', into: 'Open' }] }, 'Kind', true, list.columns);
    expect(one.columns).toEqual([{ name: 'Kind', into: '' }, { name: 'Days', into: 'Open' }]);
    expect(withColumn(one, 'Days', false, list.columns).columns).toEqual([{ name: 'Kind', into: '' }]);
  });
});
