import type { AuditKind } from '@sprig/contracts';

/** What the audit trail says happened. */
export const auditWords: Record<AuditKind, string> = {
  'signed-in': 'signed in',
  'sign-in-failed': 'a sign-in failed',
  'signed-out': 'signed out',
  'sessions-ended': 'ended sessions',
  'password-changed': 'changed the password',
  'password-reset-asked': 'a new password was asked for',
  'password-reset': 'set a new password by a link',
  'second-factor-on': 'turned the second factor on',
  'second-factor-off': 'turned the second factor off',
  'recovery-code-used': 'used a recovery code',
  'owner-made': 'was made the owner',
  invited: 'invited',
  'invitation-taken-back': 'took an invitation back',
  joined: 'joined',
  'role-changed': 'changed a role',
  'plan-role-changed': 'changed a role at a plan',
  removed: 'took somebody out',
  'workspace-renamed': 'renamed the workspace',
  'token-made': 'made a token',
  'token-ended': 'ended a token',
  'client-link-made': 'made a link for a client',
  'client-link-ended': 'took back a client’s link',
  'acceptance-asked': 'asked that ads be accepted',
  downloaded: 'downloaded',
};
