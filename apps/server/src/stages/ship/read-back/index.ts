export { readBackJob } from './look-job.ts';
export {
  chooseStaged,
  dropReadBack,
  latestReadBack,
  listStaged,
  readBackOf,
  stagedCampaigns,
} from './staged.ts';
export { takeBackJob } from './take-job.ts';
