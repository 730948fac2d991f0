/** The directions of docs/architecture.md, held by the test command. */
const core = '^packages/core/src/';

/**
 * One rule for each room of a package: beside itself it may use the rooms that stand behind it here, and no others. `front`:
 * they are entered by their index.ts alone. What puts rooms together (`composed`) and tests may use all of them.
 */
const rooms = (name, base, allowed, { front = false, composed = [] } = {}) => {
  // Rooms within a room have rules of their own.
  const within = (room) => {
    const inner = Object.keys(allowed).filter((other) => other.startsWith(`${room}/`));
    const others = inner.map((other) => `(?!${other.slice(room.length + 1)}/)`).join('');
    return `^${base}/${room}(/${others}|\\.tsx?$)`;
  };
  return Object.entries(allowed).map(([room, uses]) => ({
    name: `${name}-${room.replaceAll('/', '-')}`,
    severity: 'error',
    from: {
      path: within(room),
      pathNot: ['\\.test\\.tsx?$', ...composed.map((path) => `^${base}/${path}`)],
    },
    to: {
      path: `^${base}/`,
      pathNot: [
        within(room),
        ...uses.map((other) => (front ? `^${base}/${other}/index\\.ts$` : within(other))),
      ],
    },
  }));
};

const words = ['access', 'money', 'text'];
const coreRooms = rooms(
  'core',
  'packages/core/src',
  {
    access: [],
    next: [],
    money: ['access'],
    text: ['access'],
    match: words,
    prune: [...words, 'match'],
    figures: [...words, 'prune'],
    gather: [...words, 'match', 'figures'],
    sort: words,
    mix: [...words, 'match', 'gather'],
    write: [...words, 'gather'],
    build: [...words, 'match', 'sort'],
    columns: [...words, 'match', 'build', 'write'],
    outlets: [...words, 'match', 'write', 'columns', 'learn'],
    sheets: [...words, 'match', 'build', 'write', 'columns', 'outlets'],
    ads: [...words, 'build', 'write', 'outlets'],
    findings: [...words, 'build', 'write', 'outlets', 'sheets', 'ads'],
    learn: [...words, 'match', 'gather'],
    plan: [...words, 'match', 'sort', 'build', 'write', 'outlets', 'ads', 'findings'],
  },
  { front: true },
);

const below = ['platform', 'platform/jobs', 'db', 'people/standing'];
const serverRooms = rooms(
  'server',
  'apps/server/src',
  {
    platform: [],
    db: ['platform'],
    'people/standing': ['platform', 'db'],
    'platform/jobs': ['platform', 'db', 'people/standing'],
    http: [...below],
    people: [...below, 'http'],
    pages: [],
    figures: [...below],
    plan: [...below, 'http', 'figures'],
    stages: [...below, 'http', 'figures', 'pages', 'plan'],
    demo: [...below, 'plan', 'stages', 'people'],
  },
  // The server, and a thread that runs the jobs of all stages.
  { composed: ['http/(app|serve)\\.ts$', 'platform/jobs/thread-of-jobs\\.ts$'] },
);

const webRooms = rooms('web', 'apps/web/src', {
  kit: [],
  data: ['kit'],
  plan: ['kit', 'data'],
  pool: ['data', 'plan'],
  door: ['kit', 'data'],
  frame: ['kit', 'data', 'plan', 'pool', 'door'],
  stages: ['kit', 'data', 'plan', 'pool', 'frame', 'door'],
  gallery: ['kit'],
});

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
    ...coreRooms,
    ...serverRooms,
    ...webRooms,
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
