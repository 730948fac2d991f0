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
  approve: { name: 'approves', does: 'accepts ads that are handed over, or sends them back' },
};

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
}): string => [roleWords[role].name, ...permissions.map((one) => permissionWords[one].name)].join(', ');
