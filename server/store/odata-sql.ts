import { NoFilter, type Filter, type Literal, type Operand } from '../../core/dataset/odata-filter';
import { isNumeric } from '../../core/sheet/column';
import type { DatasetColumn } from './data-table';
import { quoted, type Param } from './store';

const operators = { eq: '=', ne: '<>', gt: '>', ge: '>=', lt: '<', le: '<=' } as const;

/** An operand in SQL, and whether it is a number; what is no number compares as text, by code point. */
interface Side {
  readonly sql: string;
  readonly number: boolean;
  /** A day, or a moment: both are ISO texts, a moment with a blank before its time. */
  readonly calendar?: 'date' | 'datetime' | undefined;
}

const isDay = /^\d{4}-\d\d-\d\d$/;
const isMoment = /^\d{4}-\d\d-\d\d \d\d:\d\d:\d\d/;

/** Two sides that can be compared as texts: a day beside a moment is its midnight. */
function alike(left: Side, right: Side): [string, string] {
  if (left.calendar === undefined || right.calendar === undefined || left.calendar === right.calendar)
    return [left.sql, right.sql];
  const moment = ({ sql, calendar }: Side) => (calendar === 'date' ? `(${sql} || ' 00:00:00')` : sql);
  return [moment(left), moment(right)];
}

/** A filter in SQL over `d`, a row of the data table; values are added to the parameters. @throws NoFilter */
export function filterSql(
  filter: Filter,
  columnOf: (name: string) => DatasetColumn | undefined,
  params: Param[],
): string {
  const property = (name: string): DatasetColumn => {
    const found = columnOf(name);
    if (!found) throw new NoFilter(`There is no property “${name}”.`);
    return found;
  };
  const given = (value: Exclude<Literal, null>): Side => {
    params.push(typeof value === 'boolean' ? String(value) : value);
    return typeof value === 'number'
      ? { sql: `$${params.length}::numeric`, number: true }
      : { sql: `$${params.length}::text`, number: false, calendar: calendarOf(String(value)) };
  };
  const calendarOf = (text: string) => (isDay.test(text) ? 'date' : isMoment.test(text) ? 'datetime' : undefined);
  function side(of: Operand): Side {
    switch (of.is) {
      case 'literal':
        if (of.value === null) throw new NoFilter('Only eq and ne compare with null.');
        return given(of.value);
      case 'property': {
        const column = property(of.name);
        const cell = `d.${quoted(column.identifier)}`;
        if (isNumeric(column.type)) return { sql: `${cell}::numeric`, number: true };
        const text = `${cell}::text`;
        if (column.type === 'date') return { sql: text, number: false, calendar: 'date' };
        if (column.type !== 'datetime') return { sql: text, number: false };
        // Moments without seconds compare as those with them.
        const moment = `replace(${text}, 'T', ' ')`;
        const sql = `(case when length(${text}) = 16 then ${moment} || ':00' else ${moment} end)`;
        return { sql, number: false, calendar: 'datetime' };
      }
      case 'call': {
        const { sql } = side(of.on);
        switch (of.of) {
          case 'tolower':
            return { sql: `lower((${sql})::text)`, number: false };
          case 'toupper':
            return { sql: `upper((${sql})::text)`, number: false };
          case 'trim':
            return { sql: `btrim((${sql})::text)`, number: false };
          case 'length':
            return { sql: `length((${sql})::text)::numeric`, number: true };
          default: {
            // Calendar values are ISO texts here: year, month and day stand at their places.
            const [from, count] = { year: [1, 4], month: [6, 2], day: [9, 2] }[of.of];
            return {
              sql: `nullif(regexp_replace(substr((${sql})::text, ${from}, ${count}), '\\D', '', 'g'), '')::numeric`,
              number: true,
            };
          }
        }
      }
    }
  }
  const isNull = (of: Operand) => of.is === 'literal' && of.value === null;
  switch (filter.is) {
    case 'and':
    case 'or':
      return `(${filterSql(filter.left, columnOf, params)} ${filter.is} ${filterSql(filter.right, columnOf, params)})`;
    case 'not':
      return `(not ${filterSql(filter.of, columnOf, params)})`;
    case 'property':
      return `coalesce(d.${quoted(property(filter.name).identifier)}::text = 'true', false)`;
    case 'in':
      return `(${filter.values.map((value) => filterSql({ is: 'compare', sign: 'eq', left: filter.left, right: { is: 'literal', value } }, columnOf, params)).join(' or ')})`;
    case 'test': {
      const [left, right] = [side(filter.left), side(filter.right)];
      const [whole, part] = [`(${left.sql})::text`, `(${right.sql})::text`];
      const test = {
        contains: `position(${part} in ${whole}) > 0`,
        startswith: `starts_with(${whole}, ${part})`,
        endswith: `right(${whole}, length(${part})) = ${part}`,
      }[filter.of];
      return `coalesce(${test}, false)`;
    }
    case 'compare': {
      const { sign } = filter;
      if (isNull(filter.right) || isNull(filter.left)) {
        if (sign !== 'eq' && sign !== 'ne') return 'false';
        const { sql } = side(isNull(filter.right) ? filter.left : filter.right);
        return `(${sql} is ${sign === 'eq' ? '' : 'not '}null)`;
      }
      const [left, right] = [side(filter.left), side(filter.right)];
      if (left.number !== right.number) throw new NoFilter(`A number and a text cannot be compared by ${sign}.`);
      const [a, b] = alike(left, right);
      const compared = `${a}${left.number ? '' : ' collate "C"'} ${operators[sign]} ${b}`;
      // With a blank ne is true, and all else false (OData URL Conventions 5.1.1.1).
      return `coalesce(${compared}, ${sign === 'ne'})`;
    }
  }
}
