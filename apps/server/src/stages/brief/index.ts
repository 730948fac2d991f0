import type { Stage } from '../stage.ts';
import { briefRoutes } from './routes.ts';

export const briefStage = { routes: briefRoutes } satisfies Stage;
