import * as api from '@sprig/contracts';
import { Router } from 'express';
import { jobById, openJobsOf, stopJobOf } from '../platform/jobs/store.ts';
import { mount } from './mount.ts';

export const jobRoutes = (): Router => {
  const router = Router();
  mount(router, api.openJobs, async (caller) => ({
    jobs: await openJobsOf(caller),
  }));
  mount(router, api.readJob, (caller, { params: { job } }) => jobById(caller, job));
  mount(router, api.stopJob, (caller, { params: { job } }) => stopJobOf(caller, job));
  return router;
};
