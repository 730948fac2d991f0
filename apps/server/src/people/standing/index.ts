export { assertMayStill, atPlan, type Here, isShown } from './standing.ts';
export { PEOPLE_CHANNEL, tellOfActors, tellOfPerson } from './tell-people.ts';
