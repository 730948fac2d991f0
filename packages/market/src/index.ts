export { DEMO_SIZE, type DemoKeyword, demoKeywords, manyKeywords } from './demo/keywords.ts';
export { noiseOf, seeded } from './seeded.ts';
