export { addressesJob } from './addresses.ts';
export { reviewAds } from './ads.ts';
export { writeRoutes } from './routes.ts';
