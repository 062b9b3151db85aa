/**
 * Unit tests are beside what they test; `scripts/build-tests.mjs` bundles them. They run without VM contexts, so that modules load once a
 * process; docs/decisions/041-tests-without-contexts.md has the reasons and the limits.
 */
export default {
  runner: 'jest-light-runner/child-process',
  setupFiles: ['<rootDir>/scripts/jest-setup.mjs'],
  testSequencer: '<rootDir>/scripts/testOrder.mjs',
  maxWorkers: '100%',
  roots: ['<rootDir>/dist/tests'],
  testMatch: ['**/*.test.mjs'],
}
