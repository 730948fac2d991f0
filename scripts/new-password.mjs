import { createHash, randomBytes } from 'node:crypto';
import { join } from 'node:path';
import pg from 'pg';
import { withDatabase } from './setup/database-at.mjs';
import { ensurePackages } from './setup/packages.mjs';
import { root } from './setup/root.mjs';
import { main, SetupFailure } from './setup/stop-with.mjs';

/** Prints a link by which somebody sets a new password, where no mail leaves the server: `npm run new-password -- E-MAIL`. */
await main(async () => {
  const email = process.argv[2]?.trim().toLowerCase();
  if (!email) throw new SetupFailure('Say whose: npm run new-password -- ada@shop.example');
  ensurePackages();
  const folder = process.env.SPRIG_DATA_DIR ?? join(root, '.data');
  await withDatabase(folder, {}, async ({ url }) => {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    try {
      console.log(
        `Within an hour, and once, this link sets a new password for ${email}:\n\n  ${await linkFor(client, email)}\n`,
      );
    } finally {
      await client.end();
    }
  });
});

async function linkFor(client, email) {
  const { rows } = await client.query('select id from people where email = $1 and not is_demo', [email]);
  if (rows.length === 0) throw new SetupFailure(`Nobody has an account with the address ${email}.`);
  const token = randomBytes(32).toString('base64url');
  const key = createHash('sha256').update(token).digest('base64url');
  await client.query(
    `insert into links (key, kind, email, person_id, ends_at) values ($1, 'reset', $2, $3, now() + interval '1 hour')`,
    [key, email, rows[0].id],
  );
  const at = (process.env.PUBLIC_URL ?? `http://127.0.0.1:${process.env.PORT ?? 4600}`).replace(/\/+$/, '');
  return `${at}/door/reset#${token}`;
}
