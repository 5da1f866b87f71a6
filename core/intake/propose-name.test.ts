import { expect, it } from 'vitest';
import { proposedName } from './propose-name';

it.each([
  [[], '/home/ann/reports/landing-sheets/', 'Landing sheets'],
  [['2025/a.pdf'], 'C:\\Reports\\Tide_tables', 'Tide tables'],
  [['berth-note-1041.pdf', 'berth-note-1042.pdf'], undefined, 'Berth note'],
  [['north/week-24.pdf', 'north/week-25-r2.pdf'], undefined, 'Week'],
  [['Bericht Mai 2025.pdf'], undefined, 'Bericht Mai'],
  [['a.pdf', 'b.pdf'], undefined, ''],
  [['2025-05.pdf', '2025-06.pdf'], undefined, ''],
  [[], undefined, ''],
] as const)('a pipeline over %j in %s is called “%s”', (paths, folder, name) => {
  expect(proposedName(paths, folder)).toBe(name);
});
