/**
 * What somebody of a workspace may do: an owner everything; a builder all of a plan; a writer its ads, and read the rest;
 * a reader read. A guest has only the plans that were opened to them, each with a role of its own.
 */
export const roles = ['owner', 'builder', 'writer', 'reader', 'guest'] as const;
export type Role = (typeof roles)[number];

/** Roles that somebody may have at one plan, wider or narrower than in the workspace. */
export const planRoles = ['builder', 'writer', 'reader'] as const satisfies readonly Role[];
export type PlanRole = (typeof planRoles)[number];

/** What is given to some beside their role: to ship, which owners may, and to approve what others ship. */
export const permissions = ['ship', 'approve'] as const;
export type Permission = (typeof permissions)[number];

/** Who asks, as far as what they may do goes. */
export type Standing = { role: Role; permissions: readonly Permission[] };

/**
 * What a call asks for. `open`: nothing, not even to be signed in. `self`: one's own, such as preferences, and the list of the
 * plans that one may see. `read`: to see. `write`: to change ads, addresses and extras. `build`: to change all else of a plan.
 * `ship`: to make sheets, hand them in, and note what became of them. `approve`: to accept what was handed over. `people`: to
 * say who is in the workspace and may do what.
 */
export const accesses = ['open', 'self', 'read', 'write', 'build', 'ship', 'approve', 'people'] as const;
export type Access = (typeof accesses)[number];

const ROLES_OF: Readonly<Record<Exclude<Access, Permission>, readonly Role[]>> = {
  open: roles,
  self: roles,
  read: ['owner', 'builder', 'writer', 'reader'],
  write: ['owner', 'builder', 'writer'],
  build: ['owner', 'builder'],
  people: ['owner'],
};

/** Whether somebody may do what a call asks for. */
export const may = ({ role, permissions: own }: Standing, access: Access): boolean =>
  access === 'ship' || access === 'approve'
    ? role === 'owner' || (role !== 'guest' && own.includes(access))
    : ROLES_OF[access].includes(role);
