import { type MarketProvider, standInMarket } from '@sprig/market';

const providers = new Map<number, MarketProvider>();

/**
 * The market that figures and ideas come from: the stand-in, until a real one takes its place here. Its twelve months
 * end with the last whole month.
 */
export function market(now = new Date()): MarketProvider {
  const lastMonth = (now.getUTCMonth() + 11) % 12;
  const provider = providers.get(lastMonth) ?? standInMarket(lastMonth);
  providers.set(lastMonth, provider);
  return provider;
}
