import type { Commands } from '../../kit/commands.ts';

export const peopleCommands = {
  members: { keys: 'm', words: 'Members' },
  audit: { keys: 'a', words: 'What happened' },
  tokens: { keys: 't', words: 'Tokens' },
  mails: { keys: 'b', words: 'Mails of the demo' },
  invite: { keys: 'n', words: 'Invite somebody' },
} satisfies Commands;
