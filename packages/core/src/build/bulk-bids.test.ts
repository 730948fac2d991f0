import { describe, expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { type BidChange, changedBid } from './index.ts';

const penny = asMicros(10_000);

describe('bulk changes of bids', () => {
  test.each([
    [{ kind: 'set', to: asMicros(555_000) }, 560_000],
    [{ kind: 'percent', by: 1_000 }, 550_000],
    [{ kind: 'percent', by: -3_333 }, 330_000],
    [{ kind: 'percent', by: -10_000 }, 10_000],
    [{ kind: 'amount', by: 25_000 }, 530_000],
    [{ kind: 'amount', by: -900_000 }, 10_000],
    [{ kind: 'round', to: asMicros(200_000) }, 600_000],
    [{ kind: 'round', to: asMicros(5_000) }, 500_000],
    [{ kind: 'between', from: asMicros(600_000), to: asMicros(700_000) }, 600_000],
    [{ kind: 'between', from: asMicros(1), to: asMicros(400_000) }, 400_000],
  ] as [BidChange, number][])('£0.50, %j: %i', (change, expected) =>
    expect(changedBid(asMicros(500_000), change, penny)).toBe(expected),
  );
});
