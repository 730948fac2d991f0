// TypeScript does not reach worker threads by itself on this Node: register the loader, then start the thread.
import { register } from 'tsx/esm/api';

register();
await import('./thread-of-jobs.ts');
