import type { Sequelize } from 'sequelize';
import { connect } from '../../db/connect.ts';
import { cancelUntil, connectAs, type Executor, type JobHandlers, newName, outcomeOf } from './execution.ts';

const SLOTS = 2;
const LONGEST_STOP_MS = 60_000;

type Seat = { name: string; database: Sequelize; job: string | null; isStopping: boolean };

/**
 * Runs jobs in this process, each with connections of its own. What computes without a pause can't be stopped here:
 * where that matters jobs run in threads.
 * @param url of the database
 */
export function inProcess(url: string, handlers: JobHandlers): Executor {
  const seats: Seat[] = Array.from({ length: SLOTS }, () => {
    const name = newName();
    return { name, database: connectAs(url, name), job: null, isStopping: false };
  });
  const canceller = connect(url, { connections: 2 });
  return {
    slots: SLOTS,
    run: async (job) => {
      const seat = seats.find(({ job: running }) => running === null);
      if (!seat) throw new Error('no seat is free');
      seat.job = job.id;
      try {
        return await outcomeOf(seat.database, handlers, job);
      } finally {
        seat.job = null;
        seat.isStopping = false;
      }
    },
    stop: (job) => {
      const seat = seats.find(({ job: running }) => running === job);
      if (!seat || seat.isStopping) return;
      seat.isStopping = true;
      void cancelUntil(canceller, seat.name, () => seat.job !== job, LONGEST_STOP_MS);
    },
    end: async () => {
      while (seats.some(({ job }) => job !== null)) await new Promise((go) => setTimeout(go, 20));
      await Promise.all([canceller, ...seats.map(({ database }) => database)].map((one) => one.close()));
    },
  };
}
