/** Unit tests stand beside what they test; e2e/ belongs to Playwright. */
export default {
  testEnvironment: 'node',
  // Some tests run the engine; a machine that does other work as well is slow.
  testTimeout: 300_000,
  // The whole suite has half an hour: every core works.
  maxWorkers: '100%',
  testMatch: ['**/*.test.ts'],
  transform: {
    '^.+\\.[tj]sx?$': [
      '<rootDir>/scripts/jest-transform.mjs',
      { jsc: { target: 'es2022', parser: { syntax: 'typescript', tsx: true }, transform: { react: { runtime: 'automatic' } } } },
    ],
  },
  moduleNameMapper: {
    '\\.module\\.css$': '<rootDir>/scripts/jest-styles.js',
    '^@/(.*)$': '<rootDir>/$1',
    // What others require of it warns and loads a module all the same.
    '^three$': '<rootDir>/node_modules/three/build/three.module.js',
  },
  transformIgnorePatterns: ['/node_modules/(?!(p-queue|eventemitter3|p-timeout|quickselect|content-disposition|culori|slugify|three)/)'],
  testPathIgnorePatterns: ['/node_modules/', '/e2e/', '/dist/', '/.next/'],
  modulePathIgnorePatterns: ['/dist/', '/.next/'],
}
