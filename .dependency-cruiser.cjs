/** The directions of docs/architecture.md, held by the test command. */
const core = '^packages/core/src/';
module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-imports-nothing-of-ours',
      severity: 'error',
      from: { path: core },
      to: { path: '^(packages/(contracts|market)|apps)/' },
    },
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: core, pathNot: '\\.test\\.ts$' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'contracts-know-core-only',
      severity: 'error',
      from: { path: '^packages/contracts/' },
      to: { path: '^(packages/market|apps)/' },
    },
    {
      name: 'market-knows-core-only',
      severity: 'error',
      from: { path: '^packages/market/' },
      to: { path: '^(packages/contracts|apps)/' },
    },
    {
      name: 'web-not-server',
      severity: 'error',
      from: { path: '^apps/web/' },
      to: { path: '^apps/server/' },
    },
    {
      name: 'server-not-web',
      severity: 'error',
      from: { path: '^apps/server/' },
      to: { path: '^apps/web/' },
    },
    {
      name: 'stages-by-their-front-door',
      comment: 'A core stage is reached through its index.ts only.',
      severity: 'error',
      from: { path: '^packages/core/src/([^/]+)/' },
      to: { path: '^packages/core/src/([^/]+)/', pathNot: ['^packages/core/src/$1/', '/index\\.ts$'] },
    },
    {
      name: 'server-stages-by-their-front-door',
      severity: 'error',
      from: { path: '^apps/server/src/stages/([^/]+)/' },
      to: {
        path: '^apps/server/src/stages/([^/]+)/',
        pathNot: ['^apps/server/src/stages/$1/', '/index\\.ts$'],
      },
    },
    {
      name: 'web-stages-apart',
      severity: 'error',
      from: { path: '^apps/web/src/stages/([^/]+)/' },
      to: { path: '^apps/web/src/stages/([^/]+)/', pathNot: '^apps/web/src/stages/$1/' },
    },
    {
      name: 'web-computes-in-workers',
      comment: 'The market runs in a worker of the web app, never in its screens.',
      severity: 'error',
      from: { path: '^apps/web/', pathNot: '/worker' },
      to: { path: '^packages/market/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '/dist/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.base.json' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'types', 'default'] },
  },
};
