import withNuxt from './.nuxt/eslint.config.mjs'

const arrow = (folder, banned, why) => ({
  files: [`core/${folder}/**/*.ts`],
  ignores: ['**/*.test.ts'],
  rules: { 'no-restricted-imports': ['error', { patterns: [{ group: banned, message: why }] }] },
})

export default withNuxt(
  { ignores: ['public/**', 'playwright-report/**', 'test-results/**', '.output/**'] },
  {
    rules: {
      'vue/max-attributes-per-line': 'off', 'vue/singleline-html-element-content-newline': 'off', 'vue/html-self-closing': 'off', 'vue/multi-word-component-names': 'off',
      'vue/no-v-html': 'error', '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  { files: ['core/**/*.ts'], ignores: ['**/*.test.ts'], rules: { 'no-restricted-imports': ['error', { patterns: [{ group: ['vue', 'vue/*', 'pinia', 'dexie', 'node:*', '~/*', '#platform/*', '**/app/**', '**/platform/**'], message: 'The core is pure: it knows neither page, database, Node nor platform. Hand in what it needs as an argument.' }] }] } },
  arrow('music', ['../*'], 'music is the lowest layer: it imports nothing from its neighbours.'),
  arrow('time', ['../song/*', '../playing/*', '../listen/*', '../sound/*', '../engrave/*', '../files/*', '../check/*'], 'time knows music at most; move what needs the song above it.'),
  arrow('listen', ['../song/*', '../playing/*', '../sound/*', '../engrave/*', '../files/*', '../check/*'], 'listen knows music and time and nothing of the document; check/recording joins the two.'),
  arrow('song', ['../playing/*', '../listen/*', '../sound/*', '../engrave/*', '../files/*', '../check/*'], 'The document knows nothing of what is computed from it.'),
)
