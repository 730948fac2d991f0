import { workerData } from 'node:worker_threads';
import { handlersWith } from './handlers.ts';
import { serveJobs } from './thread.ts';

serveJobs(handlersWith((workerData as { allowed?: readonly string[] }).allowed));
