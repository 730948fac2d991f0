import { writeFileSync } from 'node:fs';
import { connect } from '../../apps/server/src/db/connect.ts';
import { migrate } from '../../apps/server/src/db/migrate.ts';
import { learnMeasured } from './learn.ts';

/** Measures Learn in a process and a database of its own, and writes what it found into the file that is named. */
const [, , file = ''] = process.argv;
const url = process.env.DATABASE_URL ?? '';
const database = connect(url);
await migrate(database, url);
await database.close();
const measured = await learnMeasured();
writeFileSync(file, JSON.stringify(measured));
