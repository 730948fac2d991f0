import { expose } from 'comlink';
import { VariantList } from './variant-list.ts';

export type VariantWorker = VariantList;

expose(new VariantList());
