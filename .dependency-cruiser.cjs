/** Imports point down only: web → contract → core, demo → server → contract → core. Features keep to themselves. */
const { readdirSync } = require('node:fs');

const path = (folder) => `^src/${folder}/`;
/** The folders of a layer but for those that are no features, so that a new feature is held to the rules from its first file. */
const features = (layer, ...others) =>
  readdirSync(`${__dirname}/src/${layer}`, { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && !others.includes(entry.name))
    .map(({ name }) => name)
    .join('|');
const WEB_FEATURES = features('web', 'app', 'domain', 'kit', 'workers', 'testing');
const SERVER_FEATURES = features('server', 'platform', 'testing', 'commands');

module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      severity: 'error',
      from: {},
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
    },
    {
      name: 'core-stands-alone',
      severity: 'error',
      comment: 'Core has no I/O and knows nothing of what is above it.',
      from: { path: path('core'), pathNot: '\\.test\\.ts$' },
      to: { pathNot: path('core') },
    },
    {
      name: 'contract-rests-on-core',
      severity: 'error',
      from: { path: path('contract'), pathNot: '\\.test\\.ts$' },
      to: { path: '^src/', pathNot: '^src/(core|contract)/' },
    },
    {
      name: 'server-knows-no-web',
      severity: 'error',
      from: { path: path('server') },
      to: { path: '^src/(web|demo)/', pathNot: '^src/demo/load\\.ts$' },
    },
    {
      name: 'web-knows-no-server',
      severity: 'error',
      from: { path: path('web') },
      to: { path: '^src/(server|demo)/' },
    },
    {
      name: 'core-through-the-index',
      severity: 'error',
      comment: 'A folder of core says what it offers in its index; nobody reaches past it.',
      from: { path: '^src/(?!core/)', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/core/[^/]+/(?!index\\.ts$)' },
    },
    {
      name: 'contract-through-the-index',
      severity: 'error',
      from: { path: '^src/(server|web|demo)/', pathNot: '\\.test\\.ts$' },
      to: { path: '^src/contract/(?!index\\.ts$)' },
    },
    {
      name: 'web-features-keep-apart',
      severity: 'error',
      comment: 'What two features need lies in domain/, kit/ or app/.',
      from: { path: `^src/web/(${WEB_FEATURES})/` },
      to: { path: `^src/web/(${WEB_FEATURES})/`, pathNot: '^src/web/$1/' },
    },
    {
      name: 'server-features-through-the-index',
      severity: 'error',
      comment:
        'A feature of the server says what it offers in its index; app.ts alone puts their routes together.',
      from: { path: `^src/server/(${SERVER_FEATURES})/`, pathNot: '\\.test\\.ts$' },
      to: { path: `^src/server/(${SERVER_FEATURES})/(?!index\\.ts$)`, pathNot: '^src/server/$1/' },
    },
    {
      name: 'demo-through-the-index',
      severity: 'error',
      from: { path: path('demo'), pathNot: '\\.test\\.ts$' },
      to: { path: `^src/server/(${SERVER_FEATURES})/(?!index\\.ts$)` },
    },
    {
      name: 'core-in-order',
      severity: 'error',
      comment:
        'Measures know nothing of what is made of them: measure, chemistry, pack, record … assess last.',
      from: {
        path: '^src/core/(measure|chemistry|reading|pack|record|storage|health|rules|inspection|incident|lifecycle)/',
        pathNot: '\\.test\\.ts$',
      },
      to: { path: '^src/core/(assess|admission|wording|whatif|testing|calendar)/' },
    },
    {
      name: 'kit-knows-no-feature',
      severity: 'error',
      from: { path: path('web/kit') },
      to: { path: '^src/web/(?!kit/)' },
    },
    {
      name: 'web-domain-knows-no-feature',
      severity: 'error',
      from: { path: path('web/domain') },
      to: { path: `^src/web/(${WEB_FEATURES})/` },
    },
    {
      name: 'records-know-no-page',
      severity: 'error',
      comment:
        'Forms and timeline serve the page of a pack; they know nothing of it, of decisions or of the list.',
      from: { path: path('web/packs/records') },
      to: { path: '^src/web/packs/(pack|decisions|register)/' },
    },
    {
      name: 'platform-has-no-domain',
      severity: 'error',
      from: { path: path('server/platform'), pathNot: '\\.test\\.ts$' },
      to: { path: '^src/server/(?!platform/)' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['import', 'require', 'node', 'default'],
    },
  },
};
