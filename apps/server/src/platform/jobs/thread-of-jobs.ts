import { workerData } from 'node:worker_threads';
import { handlersWith } from '../../stages/all.ts';
import { serveJobs } from './thread.ts';

serveJobs(handlersWith((workerData as { allowed?: readonly string[] }).allowed));
