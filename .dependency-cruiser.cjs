/** Arrows point one way: web -> contract -> core, server -> media -> core, server -> contract, cli -> media -> core. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  comment: `${from} may import itself${allowed.length ? `, ${allowed.join(', ')}` : ''} and packages`,
  from: { path: `^${from}/` },
  to: { path: '^(core|contract|media|server|web|cli|demo|e2e|scripts)/', pathNot: `^(${[from, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    only('core-stands-alone', 'core', []),
    only('media-on-core', 'media', ['core']),
    only('contract-on-core', 'contract', ['core']),
    only('server-on-media', 'server', ['media', 'contract', 'core']),
    only('web-on-core', 'web', ['contract', 'core']),
    only('cli-on-media', 'cli', ['media', 'core']),
    {
      name: 'page-takes-types-alone',
      severity: 'error',
      comment: 'the rules of the contract are made with Joi, which the page does without',
      from: { path: '^web/src' },
      to: { path: '^contract/src/(rules|routes|openapi)' },
    },
    {
      name: 'page-makes-no-rules',
      severity: 'error',
      from: { path: '^contract/src/(index|types|news|errors)\\.ts$' },
      to: { path: 'joi|^contract/src/(rules|routes|openapi)' },
    },
    {
      name: 'footage-knows-no-http',
      severity: 'error',
      comment: 'what is done with footage, jobs and the store is done for whoever asks, not for a request alone',
      from: { path: '^server/src/(footage|jobs|store|db)/|^server/src/demo\\.ts', pathNot: '\\.test\\.ts$' },
      to: { path: '^server/src/http/' },
    },
    {
      name: 'state-knows-no-room',
      severity: 'error',
      comment: 'the rooms of the bench are drawn from its state, not the other way round',
      from: { path: '^web/src/bench/state/', pathNot: '\\.test\\.ts$' },
      to: { path: '^web/src/bench/(?!state/)' },
    },
    {
      name: 'score-makes-no-picture',
      severity: 'error',
      comment: 'what happens at a picture is told without wearing it',
      from: { path: '^core/src/score', pathNot: '\\.test\\.ts$' },
      to: { path: '^core/src/plan' },
    },
    {
      name: 'core-knows-no-machine',
      severity: 'error',
      comment: 'core runs in the browser and in Node alike: no Node modules, no DOM packages',
      from: { path: '^core/src', pathNot: '\\.test\\.ts$|^core/src/testing\\.ts$|^core/checks/' },
      to: { dependencyTypes: ['core'] },
    },
    { name: 'not-to-tests', severity: 'error', from: { pathNot: '\\.test\\.tsx?$|/testing[^/]*\\.ts$' }, to: { path: '\\.test\\.tsx?$|/testing[^/]*\\.ts$|core/src/twins\\.ts$' } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'dist/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
