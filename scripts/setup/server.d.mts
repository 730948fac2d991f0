/** How Node starts the server: what the demo and the bench share. */
export const NODE_ARGS: readonly string[];
