export const faults: readonly { name: string; file: string; find: string; put: string }[];
