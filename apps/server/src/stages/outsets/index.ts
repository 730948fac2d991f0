export { outsetRoutes } from './routes.ts';
export { readRules } from './rules-of-plan.ts';
export { outsetOf } from './service.ts';
export { takeIn } from './take-in.ts';
