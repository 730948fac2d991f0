import type { Permission, PlanRole, Role } from '@sprig/contracts';

/** What somebody is called by their role, and what they do. */
export const roleWords: Record<Role, { name: string; does: string }> = {
  owner: { name: 'owner', does: 'does everything, and says who is in the workspace' },
  builder: { name: 'builder', does: 'makes and changes plans' },
  writer: { name: 'writer', does: 'writes ads, and sees the rest' },
  reader: { name: 'reader', does: 'sees, copies and downloads' },
  guest: { name: 'guest', does: 'sees only the plans that were opened to them' },
};

export const permissionWords: Record<Permission, { name: string; does: string }> = {
  ship: { name: 'ships', does: 'makes sheets, and hands them in' },
  approve: { name: 'approves', does: 'accepts what is handed over, or sends it back' },
};

/**
 * What is offered beside a role. Nothing is handed over to be approved yet, so that to approve is not: it would be a setting that
 * does nothing.
 */
export const offeredPermissions = ['ship'] as const satisfies readonly Permission[];
const isOffered = (one: Permission): boolean => offeredPermissions.some((offered) => offered === one);

/** What stands beside a role once some of what is offered is chosen: what is not offered stays. */
export const withChosen = (own: readonly Permission[], chosen: readonly Permission[]): Permission[] => [
  ...chosen,
  ...own.filter((one) => !isOffered(one)),
];

/** What somebody does at one plan. */
export const hereWords: Record<PlanRole | 'none', string> = {
  builder: 'builds',
  writer: 'writes',
  reader: 'reads',
  none: 'does not see it',
};

/** `owner, ships`. */
export const standingText = ({
  role,
  permissions,
}: {
  role: Role;
  permissions: readonly Permission[];
}): string =>
  [roleWords[role].name, ...permissions.filter(isOffered).map((one) => permissionWords[one].name)].join(', ');
