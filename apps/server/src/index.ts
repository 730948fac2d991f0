export { createApp } from './app.ts';
export { connect } from './database/connect.ts';
export { migrate } from './database/migrate.ts';
