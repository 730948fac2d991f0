import { register } from 'tsx/esm/api';

register();
await import('./busy-thread.ts');
