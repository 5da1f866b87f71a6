import { auctionAccounts } from './auction-accounts';
import { deliveries } from './deliveries';
import type { ReportFamily } from './family';
import { fuelLedger } from './fuel-ledger';
import { inspections } from './inspections';
import { jobCards } from './job-cards';
import { lockTraffic } from './lock-traffic';
import { meterReadings } from './meter-readings';
import { pilotageLists } from './pilotage-lists';
import { portCalls } from './port-calls';
import { stockLists } from './stock-lists';

/** Families of reports whose papers the proposals were tried on only after they were written; the last six then showed faults, which were mended. */
export const families: readonly ReportFamily[] = [
  stockLists,
  meterReadings,
  deliveries,
  lockTraffic,
  inspections,
  fuelLedger,
  pilotageLists,
  auctionAccounts,
  portCalls,
  jobCards,
];
