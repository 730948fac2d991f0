import disposition from 'content-disposition';
import type { RequestHandler } from 'express';
import type { Sequelize } from 'sequelize';
import { senderOf } from '../http/mount.ts';
import { log } from '../platform/log.ts';
import { noteIn } from './audit.ts';
import { addressOf } from './doorway.ts';

/** What an answer is to be kept as; null: it is shown, not kept. */
function fileName(header: unknown): string | null {
  if (typeof header !== 'string') return null;
  const { type, parameters } = disposition.parse(header);
  return type === 'attachment' ? (parameters.filename ?? '') : null;
}

/** Notes in the audit trail what leaves as a file, whatever call answers it. */
export const noteDownloads =
  (database: Sequelize): RequestHandler =>
  (request, response, next) => {
    response.on('finish', () => {
      const name = fileName(response.getHeader('content-disposition'));
      const sender = senderOf(request);
      if (name === null || response.statusCode !== 200 || !sender) return;
      const { person = null } = request.session ?? {};
      const { workspace, actor } = sender;
      const entry = { kind: 'downloaded', about: name, person, actor, address: addressOf(request) } as const;
      noteIn(database, workspace, entry).catch((error: unknown) =>
        log.error({ error }, 'a download was not noted'),
      );
    });
    next();
  };
