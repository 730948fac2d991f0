import type { Plugin } from 'vite';

export const inlineAccess: Plugin;
