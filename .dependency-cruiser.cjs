/** Which way the arrows point: docs/architecture in one file that fails the build. */
const rooms = [
  'units',
  'model',
  'edits',
  'contract',
  'acoustics',
  'circuit',
  'radio',
  'dynamics',
  'chain',
  'levels',
  'balance',
  'signals',
  'render',
  'media',
  'measure',
  'report',
]
const above = {
  units: [],
  model: ['units'],
  edits: ['units', 'model'],
  contract: ['units', 'model', 'edits'],
  acoustics: ['units', 'model'],
  circuit: ['units', 'model', 'edits', 'acoustics'],
  radio: ['units', 'model'],
  dynamics: ['units'],
  chain: ['units', 'model', 'acoustics', 'circuit', 'radio', 'dynamics'],
  levels: ['units', 'model', 'dynamics', 'chain'],
  balance: ['units', 'model', 'edits', 'circuit', 'dynamics', 'chain', 'levels', 'signals'],
  signals: ['units'],
  render: ['units', 'model', 'acoustics', 'dynamics', 'chain', 'signals'],
  media: ['model', 'units'],
  measure: ['units', 'model', 'media', 'levels'],
  report: ['units', 'model', 'circuit', 'radio', 'levels', 'balance', 'measure'],
}

module.exports = {
  forbidden: [
    { name: 'no-circular', severity: 'error', from: {}, to: { circular: true } },
    {
      name: 'core-stands-alone',
      severity: 'error',
      from: { path: '^core/src', pathNot: '(\\.test\\.ts$|/tests/)' },
      to: { path: '^(server|web|cli|e2e|tools)/' },
    },
    {
      name: 'what-tests-share-is-for-tests',
      severity: 'error',
      from: { pathNot: '(\\.test\\.ts$|/tests/)' },
      to: { path: '^core/src/tests/' },
    },
    {
      name: 'core-knows-only-zod',
      severity: 'error',
      from: { path: '^core/src', pathNot: '(\\.test\\.ts$|/tests/)' },
      to: { dependencyTypes: ['npm', 'core'], pathNot: 'node_modules/zod/' },
    },
    {
      name: 'rooms-do-not-meet',
      severity: 'error',
      from: { path: '^(server|web|cli)/' },
      to: { path: '^(server|web|cli)/', pathNot: '^$1/' },
    },
    {
      name: 'server-meets-web-in-model-and-contract',
      severity: 'error',
      from: { path: '^server/src', pathNot: '(\\.test\\.ts$|/tests/)' },
      to: { path: '^core/src/(?!(model|edits|contract)/)' },
    },
    ...rooms.map((room) => ({
      name: `${room}-points-up`,
      severity: 'error',
      from: { path: `^core/src/${room}/`, pathNot: '(\\.test\\.ts$|/tests/)' },
      to: { path: `^core/src/(?!(${[room, ...above[room]].join('|')})/)` },
    })),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'types', 'default'],
      extensions: ['.ts', '.vue', '.js', '.mjs'],
    },
  },
}
