import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from '../setup/root.mjs';

const FILE = join(root, 'packages/core/src/access/index.ts');
const IMPORT = /^import \{[^}]*\} from '[./]+\/access\/index\.ts';$/m;

/**
 * Vitest calls what a module imports through a getter, which costs nothing but in the innermost loops: there it costs four
 * times what they do. So the small functions that read lists are put into each module of core that imports them, as a
 * bundler does it.
 */
export const inlineAccess = {
  name: 'inline-access',
  enforce: 'pre',
  transform(code, id) {
    if (!id.includes('/packages/core/src/') || id.endsWith('.test.ts') || !IMPORT.test(code)) return null;
    return `${code.replace(IMPORT, '')}\n${readFileSync(FILE, 'utf8').replaceAll('export function', 'function')}`;
  },
};
