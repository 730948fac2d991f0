export { DEMO_SIZE, type DemoKeyword, demoKeywords, demoPool, manyKeywords } from './demo/keywords.ts';
export {
  type Account,
  type AccountRow,
  type Answer,
  Engine,
  emptyAccount,
  type HandedIn,
  packAccount,
  rowsOfPacked,
  SheetCells,
  unpackAccount,
  type Verdict,
} from './engine/index.ts';
export { figuresOf, positionsOf } from './figures.ts';
export { noiseOf } from './noise.ts';
export type { MarketFigures, MarketProvider, PositionEstimate, ReadPage, RivalAd } from './provider.ts';
export { clientSite, pageHtml, rivalSite } from './site.ts';
export { standInMarket, standInPlace } from './stand-in.ts';
export {
  type Advertiser,
  advertiserOf,
  type Causes,
  type Cell,
  type DayOfAccount,
  type Demand,
  reportText,
  Traffic,
  type TrafficDay,
  type TrafficReport,
  trafficReports,
} from './traffic/index.ts';
