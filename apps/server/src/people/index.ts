export { clientLinkRoutes } from './client-links.ts';
export { ownerLink } from './door.ts';
export { isFromHere } from './doorway.ts';
export { HereTogether } from './here.ts';
export { noteDownloads } from './note-downloads.ts';
export { makePeople, type People } from './people.ts';
export { peopleRoutes } from './routes.ts';
