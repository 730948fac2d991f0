/** A job may be told to rest before it starts. */
export const up = `
drop function give_job(text, json, text, integer);
create function give_job(task text, payload json, queue text, attempts integer, start_at timestamptz) returns void
language sql security definer set search_path = pg_catalog, pg_temp as
  'select graphile_worker.add_job(task, payload => payload, queue_name => queue, max_attempts => attempts, run_at => start_at)';
revoke all on function give_job(text, json, text, integer, timestamptz) from public;
`;
