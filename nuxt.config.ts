import { fileURLToPath } from 'node:url'
import { randomBytes } from 'node:crypto'
import { lightTheme, darkTheme } from './app/theme'

/** Lets the theme's generated style element through the content security policy; new with every build. */
const styleNonce = randomBytes(12).toString('hex')

/**
 * For every page, beside the stricter policy it carries itself (server/plugins/content-security.ts), which
 * alone can know the hashes of its inline scripts.
 */
const PAGE_POLICY = [
  `img-src 'self' blob: data:`,
  `media-src 'self' blob:`,
  `connect-src 'self' blob:`,
  `worker-src 'self' blob:`,
  `font-src 'self'`,
  `object-src 'none'`,
  `base-uri 'none'`,
  `form-action 'none'`,
  `frame-ancestors 'none'`,
].join('; ')
/** For what runs in a worker: its own scripts and WebAssembly, nothing else. */
const WORKER_POLICY = `default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; object-src 'none'`
const analysisWorker = fileURLToPath(new URL('./server/analysis/worker.ts', import.meta.url))
/** The analysis runs in a worker thread, which is a file of its own beside the server. */
const analysisWorkerChunk = () => ({
  name: 'analysis-worker',
  buildStart(this: { emitFile: (file: { type: 'chunk'; id: string; fileName: string }) => string }) {
    this.emitFile({ type: 'chunk', id: analysisWorker, fileName: 'analysis-worker.mjs' })
  },
})
const SAFE_HEADERS = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'X-Frame-Options': 'DENY',
  'Cross-Origin-Opener-Policy': 'same-origin',
  // Together these let the page share memory with its workers: one decoded recording serves them all. In
  // development the bundler serves the workers, without them.
  ...(process.env.NODE_ENV === 'development'
    ? {}
    : { 'Cross-Origin-Embedder-Policy': 'require-corp', 'Cross-Origin-Resource-Policy': 'same-origin' }),
}

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  ssr: false,
  telemetry: false,
  runtimeConfig: { public: { styleNonce } },
  devtools: { enabled: false },
  modules: ['vuetify-nuxt-module', '@pinia/nuxt', '@nuxt/eslint', '@vite-pwa/nuxt'],
  imports: { scan: false, autoImport: true },
  components: [
    { path: '~/components', pathPrefix: false, extensions: ['vue'] },
    { path: '~/features', pathPrefix: false, extensions: ['vue'] },
    { path: '~/ui', pathPrefix: false, extensions: ['vue'] },
  ],
  alias: {
    '#core': fileURLToPath(new URL('./core', import.meta.url)),
    '#platform': fileURLToPath(new URL('./platform', import.meta.url)),
  },
  css: [
    '@fontsource-variable/atkinson-hyperlegible-next/index.css',
    '@fontsource-variable/atkinson-hyperlegible-mono/index.css',
    '@fontsource-variable/bricolage-grotesque/index.css',
    '~/assets/main.css',
  ],
  app: {
    head: {
      title: 'Synchorda',
      htmlAttrs: { lang: 'en' },
      link: [{ rel: 'icon', href: '/icon.svg', type: 'image/svg+xml' }],
      meta: [
        { name: 'description', content: 'Chart every guitar and bass of a recorded song against its form.' },
      ],
    },
  },
  typescript: {
    strict: true,
    tsConfig: {
      include: ['../types/**/*.d.ts', '../platform/**/*.ts', '../core/**/*.ts'],
      exclude: ['../**/*.test.ts'],
    },
  },
  hooks: {
    // Nuxt 4.4 names no client entry for the server build in development when ssr is off; production is not
    // touched.
    'vite:extendConfig'(config, { isClient }) {
      const input = config.build?.rollupOptions?.input as Record<string, string> | undefined
      if (isClient && process.env.NODE_ENV === 'development' && input?.entry) input.server = input.entry
    },
  },
  nitro: {
    prerender: { routes: ['/'] },
    rollupConfig: {
      plugins: [analysisWorkerChunk()],
    },
    typescript: { tsConfig: { include: ['../types/**/*.d.ts'] } },
    serverAssets: [
      { baseName: 'demo', dir: fileURLToPath(new URL('./demo/songs', import.meta.url)) },
      { baseName: 'analyses', dir: fileURLToPath(new URL('./demo/analyses', import.meta.url)) },
    ],
  },
  routeRules: {
    '/**': { headers: { ...SAFE_HEADERS, 'Content-Security-Policy': PAGE_POLICY } },
    '/_nuxt/**': { headers: { ...SAFE_HEADERS, 'Content-Security-Policy': WORKER_POLICY } },
    '/api/**': { headers: { ...SAFE_HEADERS, 'Content-Security-Policy': "default-src 'none'" } },
  },
  vite: { worker: { format: 'es' } },
  vuetify: {
    vuetifyOptions: {
      icons: { defaultSet: 'mdi-svg' },
      defaults: {
        VBtn: { variant: 'text', rounded: 'sm' },
        VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
        VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' },
      },
      theme: { cspNonce: styleNonce, defaultTheme: 'system', themes: { light: lightTheme, dark: darkTheme } },
    },
  },
  pwa: {
    registerType: 'prompt',
    manifest: {
      name: 'Synchorda',
      short_name: 'Synchorda',
      description: 'Chart every guitar and bass of a recorded song against its form.',
      theme_color: '#1E5B4F',
      background_color: '#F4EEE2',
      icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
    },
    workbox: {
      globPatterns: ['**/*.{js,css,html,woff2,ttf,svg,wasm,json,sf3}'],
      navigateFallback: '/',
      navigateFallbackDenylist: [/^\/api\//],
      maximumFileSizeToCacheInBytes: 8 * 1024 * 1024,
      runtimeCaching: [
        { urlPattern: /\/api\/demo/, handler: 'NetworkFirst', options: { cacheName: 'demo' } },
        { urlPattern: /\/demo\/.*\.ogg$/, handler: 'CacheFirst', options: { cacheName: 'demo-recordings' } },
      ],
    },
  },
})
