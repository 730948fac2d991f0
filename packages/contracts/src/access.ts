/**
 * What somebody of a workspace may do: an owner everything; a builder all of a plan; a writer its ads, and read the rest;
 * a reader read.
 */
export const roles = ['owner', 'builder', 'writer', 'reader'] as const;
export type Role = (typeof roles)[number];

/** What is given to some beside their role: to ship, which owners may, and to approve what others ship. */
export const permissions = ['ship', 'approve'] as const;
export type Permission = (typeof permissions)[number];

/** Who asks, as far as what they may do goes. */
export type Standing = { role: Role; permissions: readonly Permission[] };

/**
 * What a call asks for. `self`: one's own preferences. `read`: to see. `write`: to change ads, addresses and extras.
 * `build`: to change all else of a plan. `ship`: to make sheets, hand them in, and note what became of them.
 */
export const accesses = ['self', 'read', 'write', 'build', 'ship'] as const;
export type Access = (typeof accesses)[number];

const ROLES_OF: Readonly<Record<Exclude<Access, 'ship'>, readonly Role[]>> = {
  self: roles,
  read: roles,
  write: ['owner', 'builder', 'writer'],
  build: ['owner', 'builder'],
};

/** Whether somebody may do what a call asks for. */
export const may = ({ role, permissions: own }: Standing, access: Access): boolean =>
  access === 'ship' ? role === 'owner' || own.includes('ship') : ROLES_OF[access].includes(role);
