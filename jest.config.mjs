const project = (displayName, roots) => ({
  displayName,
  roots,
  testMatch: ['**/*.test.ts', '**/*.test.tsx'],
  testEnvironment: 'node',
  setupFilesAfterEnv: ['<rootDir>/jest.setup.mjs'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  // Drizzle asks its globals at every part of every statement.
  transform: { '^.+\\.(ts|tsx)$': '<rootDir>/jest.transform.mjs', '/node_modules/drizzle-orm/.+\\.js$': '<rootDir>/jest.transform.mjs' },
  transformIgnorePatterns: ['/node_modules/(?!drizzle-orm/)'],
  modulePathIgnorePatterns: ['<rootDir>/data', '/dist/'],
});

export default {
  // What takes a minute on an idle machine may take four on a busy one.
  testTimeout: 240_000,
  testSequencer: '<rootDir>/jest.sequencer.mjs',
  projects: [
    project('core', ['<rootDir>/core']),
    project('contract', ['<rootDir>/contract']),
    project('media', ['<rootDir>/media']),
    project('cli', ['<rootDir>/cli']),
    project('server', ['<rootDir>/server']),
    project('web', ['<rootDir>/web']),
    {
      ...project('e2e', ['<rootDir>/e2e']),
      testEnvironment: '<rootDir>/e2e/environment.mjs',
      globalSetup: '<rootDir>/e2e/demo-once.mjs',
      globalTeardown: '<rootDir>/e2e/demo-once-gone.mjs',
    },
  ],
};
