// Lint that knows types: a promise nobody waits for loses its error. Types cost time: it looks at the files
// in which promises live, and leaves components out, which take the linter four minutes.
const PROJECTS = [
  '.nuxt/tsconfig.app.json',
  '.nuxt/tsconfig.server.json',
  'tsconfig.core.json',
  'tsconfig.tools.json',
]

export const promises = [
  {
    files: ['{app,core/hear,platform,server,cli,node}/**/*.ts'],
    ignores: ['**/*.test.ts'],
    languageOptions: { parserOptions: { project: PROJECTS } },
    rules: { '@typescript-eslint/no-floating-promises': 'error' },
  },
]
