/** Putting jobs into the queue, for the role that may not see the queue's own tables. */
export const up = `
create function give_job(task text, payload json, queue text, attempts integer) returns void
language sql security definer set search_path = pg_catalog, pg_temp as
  'select graphile_worker.add_job(task, payload => payload, queue_name => queue, max_attempts => attempts)';
revoke all on function give_job(text, json, text, integer) from public;
`;
