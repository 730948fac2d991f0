import { createTransport, type Transport } from 'nodemailer';
import type { Sequelize } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import { config } from '../platform/config.ts';
import { log } from '../platform/log.ts';

export type Mail = { to: string; subject: string; text: string };

/** Sends mails. */
export type Mailer = {
  send: (mail: Mail) => Promise<void>;
  /** Whether they leave this server, or stay in the stand-in mailbox. */
  leaves: boolean;
};

type Kept = { envelope: unknown; messageId: string };

/** Keeps mails in the database, where the demo shows them: nothing is sent. */
const standIn = (database: Sequelize): Transport<Kept> => ({
  name: 'stand-in mailbox',
  version: '1',
  send: ({ data }, done) => {
    execute(database, 'insert into mails (recipient, subject, body) values ($1, $2, $3)', [
      String(data.to),
      data.subject ?? '',
      String(data.text),
    ]).then(
      () => done(null, { envelope: data.to, messageId: '' }),
      (error: Error) => done(error, { envelope: data.to, messageId: '' }),
    );
  },
});

/** Mails go to `SMTP_URL`; without it they stay in the stand-in mailbox. */
export function makeMailer(database: Sequelize, { SMTP_URL, MAIL_FROM } = config()): Mailer {
  const transport = SMTP_URL ? createTransport(SMTP_URL) : createTransport(standIn(database));
  return {
    leaves: SMTP_URL !== undefined,
    send: async ({ to, subject, text }) => {
      await transport.sendMail({ from: MAIL_FROM, to, subject, text });
      log.info({ subject }, 'a mail was sent');
    },
  };
}

const SHOWN = 50;

/** What the stand-in mailbox has, newest first. */
export async function mailboxOf(database: Sequelize) {
  const rows = await select<{ id: number; to: string; subject: string; text: string; at: Date }>(
    database,
    `select id, recipient as to, subject, body as text, sent_at as at from mails order by id desc limit ${SHOWN}`,
  );
  return rows.map(({ at, ...mail }) => ({ ...mail, sentAt: at.toISOString() }));
}
