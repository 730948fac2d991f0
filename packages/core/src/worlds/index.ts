export { type Field, fields, labelledWorld, type World, without } from './labelled-world.ts';
