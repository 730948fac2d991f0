import type { NetworkName } from '@sprig/core/outlets';

/** Where a bid is made, as it stands behind the word. */
export const networkWords: Record<NetworkName, string> = {
  search: 'in search',
  partners: 'at partners',
  display: 'on pages',
};
