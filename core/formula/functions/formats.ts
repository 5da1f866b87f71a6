import { dateReader, dateWriter } from './date-formats';
import { declaring } from './function';
import { numberReader, numberWriter } from './number-formats';

const fn = declaring('formats');

export const formats = [
  {
    ...fn(
      'to_char',
      ['timestamp', 'text'],
      'text',
      {
        says: 'A date or timestamp as a format says: YYYY, MM, DD, Mon, Month, Dy, Day, Q, IW, IYYY, HH24, MI, SS ..., numbers in small letters too; FM before a part leaves filling out, texts stand in double quotes.',
        example: ["to_char(date '2025-06-09', 'FMDay, DD Mon YYYY')", 'Monday, 09 Jun 2025'],
        called: 'date, format',
      },
      dateWriter(),
    ),
    prepare: dateWriter,
  },
  {
    ...fn(
      'to_char',
      ['numeric', 'text'],
      'text',
      {
        says: 'A number as a format says: 9 is a digit, 0 one that is always written, a comma stands between thousands, one of S, MI, PL, SG and PR before or behind the digits is the sign; FM, at the beginning, leaves filling out.',
        example: ["to_char(1234.5, 'FM9,990.00')", '1,234.50'],
        called: 'number, format',
      },
      numberWriter(),
    ),
    prepare: numberWriter,
  },
  {
    ...fn(
      'to_date',
      ['text', 'text'],
      'date',
      {
        says: 'The date that a text says by a format. The text must fit it as a whole, where PostgreSQL guesses.',
        example: ["to_date('9 June 2025', 'DD Month YYYY')", '2025-06-09'],
        called: 'text, format',
      },
      dateReader(),
    ),
    prepare: dateReader,
  },
  {
    ...fn(
      'to_number',
      ['text', 'text'],
      'numeric',
      {
        says: 'The number that a text says by a format. The text must fit it as a whole, where PostgreSQL guesses.',
        example: ["to_number('1,234.50-', '9,999.99S')", '-1234.5'],
        called: 'text, format',
      },
      numberReader(),
    ),
    prepare: numberReader,
  },
];
