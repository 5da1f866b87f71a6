import { absolute, add, ceiling, divide, floor, multiply, negated, power, remainder, rounded, signOf, subtract, truncated, whole, type Numeric } from '../numeric';
import { declaring } from './function';

const fn = declaring('numbers');
const digitsOf = (digits?: Numeric) => Number(digits?.n ?? 0);

export const numbers = [
  fn('+', ['numeric', 'numeric'], 'numeric', { says: 'The sum, exactly.', example: ['0.1 + 0.2', '0.3'] }, add),
  fn('-', ['numeric', 'numeric'], 'numeric', { says: 'The difference, exactly.', example: ['0.3 - 0.1', '0.2'] }, subtract),
  fn('*', ['numeric', 'numeric'], 'numeric', { says: 'The product, exactly.', example: ['1.1 * 1.1', '1.21'] }, multiply),
  fn('/', ['numeric', 'numeric'], 'numeric', { says: 'The quotient; numbers are never cut to whole ones.', example: ['7 / 2', '3.5'] }, divide),
  fn('%', ['numeric', 'numeric'], 'numeric', { says: 'What is left of a division, with the sign of the first number.', example: ['-7 % 3', '-1'] }, remainder),
  fn('^', ['numeric', 'numeric'], 'numeric', { says: 'The power.', example: ['2 ^ 10', '1024'] }, power),
  fn('-', ['numeric'], 'numeric', { says: 'The number with the other sign.', example: ['-(2)', '-2'] }, negated),
  fn('+', ['numeric'], 'numeric', { says: 'The number itself.', example: ['+2', '2'] }, (value: Numeric) => value),
  fn('mod', ['numeric', 'numeric'], 'numeric', { says: 'What is left of a division, with the sign of the first number.', example: ['mod(7, 3)', '1'] }, remainder),
  fn('power', ['numeric', 'numeric'], 'numeric', { says: 'The power.', example: ['power(9, 0.5)', '3'], called: 'number, exponent' }, power),
  fn('abs', ['numeric'], 'numeric', { says: 'The number without its sign.', example: ['abs(-2.5)', '2.5'] }, absolute),
  fn('sign', ['numeric'], 'integer', { says: '-1, 0 or 1.', example: ['sign(-2.5)', '-1'] }, (value: Numeric) => whole(signOf(value))),
  fn('round', ['numeric'], 'integer', { says: 'The nearest whole number; halves go away from zero.', example: ['round(2.5)', '3'] }, (value: Numeric) => rounded(value, 0)),
  fn('round', ['numeric', 'integer'], 'numeric', { says: 'The number with so many digits behind the point; halves go away from zero, negative digits are tens, hundreds ...', example: ['round(-1.005, 2)', '-1.01'], called: 'number, digits' }, (value: Numeric, digits: Numeric) => rounded(value, digitsOf(digits))),
  fn('trunc', ['numeric'], 'integer', { says: 'The number without what stands behind the point.', example: ['trunc(-2.7)', '-2'] }, (value: Numeric) => truncated(value, 0)),
  fn('trunc', ['numeric', 'integer'], 'numeric', { says: 'The number cut to so many digits behind the point.', example: ['trunc(2.789, 2)', '2.78'], called: 'number, digits' }, (value: Numeric, digits: Numeric) => truncated(value, digitsOf(digits))),
  fn('ceil', ['numeric'], 'integer', { says: 'The least whole number that is not below.', example: ['ceil(2.1)', '3'] }, ceiling),
  fn('ceiling', ['numeric'], 'integer', { says: 'The same as ceil.', example: ['ceiling(-2.1)', '-2'] }, ceiling),
  fn('floor', ['numeric'], 'integer', { says: 'The largest whole number that is not above.', example: ['floor(-2.1)', '-3'] }, floor),
];
