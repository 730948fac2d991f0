import * as api from '@sprig/contracts';
import { Router } from 'express';
import { mount } from '../../http/mount.ts';
import { jobById, openJobsOf, stopJobOf } from './store.ts';

export const jobRoutes = (): Router => {
  const router = Router();
  mount(router, api.openJobs, async (caller, { params }) => ({
    jobs: await openJobsOf({ ...caller, ...params }),
  }));
  mount(router, api.readJob, (caller, { params: { plan, job } }) => jobById({ ...caller, plan }, job));
  mount(router, api.stopJob, (caller, { params: { plan, job } }) => stopJobOf({ ...caller, plan }, job));
  return router;
};
