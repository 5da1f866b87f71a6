import { expect, it } from 'vitest';
import { proposedName } from './propose-name';

it.each([
  [[], '/home/ann/reports/landing-sheets/', 'Landing sheets'],
  [['2025/a.pdf'], 'C:\\Reports\\Tide_tables', 'Tide tables'],
  [['berth-note-1041.pdf', 'berth-note-1042.pdf'], undefined, 'Berth note'],
  [['north/week-24.pdf', 'north/week-25-r2.pdf'], undefined, 'Week'],
  [['harbour-dues-2025-01.pdf', 'harbour-dues-2025-02.pdf'], '/home/ann/reports', 'Harbour dues'],
  [['harbour-dues-01.pdf', 'harbour-dues-02.pdf'], '/mnt/Berichte/', 'Harbour dues'],
  [['week-24.pdf', 'week-25.pdf'], '/srv/landing-sheets', 'Landing sheets'],
  [['a.pdf', 'b.pdf'], '/srv/Relatórios', 'Relatórios'],
  [['Bericht Mai 2025.pdf'], undefined, 'Bericht Mai'],
  [['a.pdf', 'b.pdf'], undefined, ''],
  [['2025-05.pdf', '2025-06.pdf'], undefined, ''],
  [[], undefined, ''],
] as const)('a pipeline over %j in %s is called “%s”', (paths, folder, name) => {
  expect(proposedName(paths, folder)).toBe(name);
});
