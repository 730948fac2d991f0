import type { Outlet } from '../outlet.ts';
import { fennelwick } from './fennelwick.ts';
import { harrowlight } from './harrowlight.ts';
import { plainOutlet } from './plain.ts';
import { quillmere } from './quillmere.ts';

export { fennelwick, harrowlight, plainOutlet, quillmere };

/** Those behind which a simulated engine stands. */
export const simulatedOutlets: readonly Outlet[] = [fennelwick, harrowlight, quillmere];

/** The outlets that ship with the product. */
export const shippedOutlets: readonly Outlet[] = [plainOutlet, ...simulatedOutlets];
