import { deliveries } from './deliveries';
import type { ReportFamily } from './family';
import { lockTraffic } from './lock-traffic';
import { meterReadings } from './meter-readings';
import { stockLists } from './stock-lists';

/** Families of reports that the proposals were not made on. */
export const families: readonly ReportFamily[] = [stockLists, meterReadings, deliveries, lockTraffic];
