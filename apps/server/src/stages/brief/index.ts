import type { Stage } from '../../platform/stage.ts';
import { briefRoutes } from './routes.ts';

export const briefStage = { routes: briefRoutes } satisfies Stage;
