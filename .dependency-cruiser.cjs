/** Arrows point one way: web -> core, server -> media -> core, cli -> media -> core. */
const only = (name, from, allowed) => ({
  name,
  severity: 'error',
  comment: `${from} may import itself${allowed.length ? `, ${allowed.join(', ')}` : ''} and packages`,
  from: { path: `^${from}/` },
  to: { path: '^(core|media|server|web|cli|demo|e2e|scripts)/', pathNot: `^(${[from, ...allowed].join('|')})/` },
});

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
    only('core-stands-alone', 'core', []),
    only('media-on-core', 'media', ['core']),
    only('server-on-media', 'server', ['media', 'core']),
    only('web-on-core', 'web', ['core']),
    only('cli-on-media', 'cli', ['media', 'core']),
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
    { name: 'not-to-tests', severity: 'error', from: { pathNot: '\\.test\\.tsx?$|^core/src/testing' }, to: { path: '\\.test\\.tsx?$|/testing\\.ts$|core/src/twins\\.ts$' } },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: 'dist/' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
