import { z } from 'zod';

// Zod compiles schemas by `new Function` unless told not to; the content rules forbid it. Imported first.
z.config({ jitless: true });
