import { simulatedOutlets } from '@sprig/core/outlets';

/** Whether a simulated engine takes the sheets of an outlet. */
export const hasStandIn = (outlet: string): boolean => simulatedOutlets.some(({ key }) => key === outlet);
