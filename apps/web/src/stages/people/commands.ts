import type { Commands } from '../../kit/commands.ts';

export const peopleCommands = {
  members: { keys: 'm', words: 'Members' },
  audit: { keys: 'a', words: 'What happened' },
  mails: { keys: 'b', words: 'Mails of the demo' },
  invite: { keys: 'n', words: 'Invite somebody' },
} satisfies Commands;
