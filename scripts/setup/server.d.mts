/** How Node runs the sources as they are. */
export const NODE_ARGS: readonly string[];

/** Starts the server, bundled, as a process of its own; answers once it does. `quiet` lets only its errors through. */
export function startServer(
  env: Record<string, string>,
  options?: { watch?: boolean; quiet?: boolean },
): Promise<{ pid: number; exited: Promise<unknown>; stop: () => Promise<void> }>;
