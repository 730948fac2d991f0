export { type Advertiser, advertiserOf } from './advertiser.ts';
export type { Causes } from './causes.ts';
export {
  type DayOfAccount,
  reportText,
  type TrafficDay,
  type TrafficReport,
  trafficReports,
} from './reports.ts';
export { type Cell, type Demand, Traffic } from './traffic.ts';
