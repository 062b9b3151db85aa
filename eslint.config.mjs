import js from '@eslint/js'
import importX from 'eslint-plugin-import-x'
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript'
import reactHooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

/** Who may import whom: imports point down. A folder not listed as `from` may not be imported by `target`. */
const mayNotImport = {
  core: ['schemas', 'codec', 'database', 'archive', 'server', 'cli', 'ui', 'app', 'demo'],
  schemas: ['codec', 'database', 'archive', 'server', 'cli', 'ui', 'app', 'demo'],
  codec: ['schemas', 'database', 'archive', 'server', 'cli', 'ui', 'app', 'demo'],
  database: ['codec', 'archive', 'server', 'cli', 'ui', 'app', 'demo'],
  archive: ['codec', 'server', 'cli', 'ui', 'app', 'demo'],
  server: ['cli', 'ui', 'app'],
  cli: ['server', 'ui', 'app'],
  demo: ['server', 'cli', 'ui', 'app', 'codec', 'database', 'archive'],
  ui: ['server', 'cli', 'app', 'codec', 'database', 'archive'],
  app: ['cli'],
}

const zones = Object.entries(mayNotImport).flatMap(([target, froms]) =>
  froms.map((from) => ({ target: `./${target}`, from: `./${from}`, message: 'Imports point down; see docs/architecture.md.' })),
)

export default tseslint.config(
  {
    ignores: [
      'node_modules',
      '.next',
      'dist',
      'data',
      '.e2e',
      'next-env.d.ts',
      'public/sw.js',
      'core/raster/kernels/assembly',
      'core/raster/kernels/generated.ts',
      'test-results',
    ],
  },
  js.configs.recommended,
  ...tseslint.configs.recommended,
  {
    plugins: { 'import-x': importX, 'react-hooks': reactHooks },
    settings: { 'import-x/resolver-next': [createTypeScriptImportResolver()] },
    rules: {
      'import-x/no-restricted-paths': ['error', { zones }],
      'import-x/no-cycle': 'error',
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      'max-lines': ['error', { max: 260, skipBlankLines: true, skipComments: true }],
      '@typescript-eslint/no-non-null-assertion': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { varsIgnorePattern: '^_', argsIgnorePattern: '^_' }],
    },
  },
  {
    // What is promised is awaited, or said not to be.
    files: ['**/*.ts', '**/*.tsx'],
    ignores: ['worker/**', '*.config.ts'],
    languageOptions: { parserOptions: { projectService: true } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
  {
    files: ['core/**/*.ts'],
    ignores: ['core/**/*.test.ts'],
    rules: {
      'no-restricted-imports': ['error', { patterns: [{ regex: '^(node:|react|next|sharp|joi|kysely)', message: 'core/ is pure TypeScript.' }] }],
      'no-restricted-globals': ['error', 'window', 'document', 'process', 'Buffer'],
    },
  },
  {
    files: ['scripts/**/*.{mjs,js}', 'bench/**/*.mjs', 'cli/*.mjs', '*.mjs'],
    languageOptions: {
      globals: {
        process: 'readonly',
        console: 'readonly',
        URL: 'readonly',
        fetch: 'readonly',
        setTimeout: 'readonly',
        clearTimeout: 'readonly',
        module: 'writable',
      },
    },
  },
  {
    // What is evaluated in the page.
    files: ['bench/**/*.mjs'],
    languageOptions: {
      globals: {
        ...{ document: 'readonly', window: 'readonly', performance: 'readonly', requestAnimationFrame: 'readonly' },
        ...{ HTMLInputElement: 'readonly', MutationObserver: 'readonly', Event: 'readonly' },
      },
    },
  },
)
