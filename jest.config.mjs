/**
 * Unit tests are beside what they test. They run without VM contexts, so that modules load once a process and `Math` is fast;
 * docs/decisions/041-tests-without-contexts.md has the reasons and the limits.
 */
export default {
  runner: 'jest-light-runner/child-process',
  setupFiles: ['<rootDir>/scripts/jest-setup.mjs'],
  maxWorkers: '100%',
  testMatch: ['**/*.test.ts'],
  testPathIgnorePatterns: ['/node_modules/', '/e2e/', '/dist/', '/.next/'],
  modulePathIgnorePatterns: ['/dist/', '/.next/'],
}
