/** Below it lies all that is read of a plan. */
export const planKey = (plan: number) => ['plan', plan] as const;
