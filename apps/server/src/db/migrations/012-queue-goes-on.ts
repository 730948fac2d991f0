/**
 * The queue frees a plan's jobs some moments after it has looked for the next one, so that a job which came meanwhile
 * waited for the next poll. Whoever waits for jobs is told when a plan's are freed.
 */
export const up = `
create function tell_jobs_go_on() returns trigger language plpgsql as $$
begin
  perform pg_notify('jobs:insert', '{"count":1}');
  return null;
end $$;

create trigger jobs_go_on after update of locked_by on graphile_worker._private_job_queues
  for each row when (old.locked_by is not null and new.locked_by is null) execute function tell_jobs_go_on();
`;
