import withNuxt from './.nuxt/eslint.config.mjs'
import { limits } from './tools/lint/limits.mjs'
import { promises } from './tools/lint/promises.mjs'
import { walls } from './tools/lint/walls.mjs'

export default withNuxt(
  { ignores: ['public/**', 'playwright-report/**', 'test-results/**', '.output/**'] },
  {
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/multi-word-component-names': 'off',
      'vue/no-v-html': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
    },
  },
  ...limits,
  ...walls,
  ...promises,
)
