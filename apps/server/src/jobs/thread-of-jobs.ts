import { handlers } from './handlers.ts';
import { serveJobs } from './thread.ts';

serveJobs(handlers);
