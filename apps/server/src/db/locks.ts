/**
 * The advisory locks of the database, by their first half; the second says of what. They stand here together, since two of
 * the same number would wait for each other.
 */
export const locks = {
  /** A runner of jobs that lives, by its number. */
  runner: 460_002,
  /** The rebuild of a plan. */
  rebuild: 460_003,
  /** A change of what a workspace's plans share. */
  shared: 460_004,
  /** Making the first owner. */
  firstOwner: 460_005,
  /** Who is a member of a workspace, and in which role. */
  members: 460_006,
} as const;
