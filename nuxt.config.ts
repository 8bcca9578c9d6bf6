import { fileURLToPath } from 'node:url'
import { randomBytes } from 'node:crypto'
import { lightTheme, darkTheme } from './app/theme'

/** Lets the theme's generated style element through the content security policy; new with every build. */
const styleNonce = randomBytes(12).toString('hex')

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  ssr: false,
  telemetry: false,
  runtimeConfig: { public: { styleNonce } },
  devtools: { enabled: false },
  modules: ['vuetify-nuxt-module', '@pinia/nuxt', '@nuxt/eslint', '@vite-pwa/nuxt'],
  imports: { scan: false, autoImport: true },
  components: [{ path: '~/components', pathPrefix: false }],
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
  app: { head: { title: 'Synchorda', htmlAttrs: { lang: 'en' }, link: [{ rel: 'icon', href: '/icon.svg', type: 'image/svg+xml' }], meta: [{ name: 'description', content: 'Chart every guitar and bass of a recorded song against its form.' }] } },
  typescript: { strict: true, tsConfig: { include: ['../types/**/*.d.ts', '../platform/**/*.ts', '../core/**/*.ts'], exclude: ['../**/*.test.ts'] } },
  hooks: {
    // Nuxt 4.4 names no client entry for the server build in development when ssr is off; production is not touched.
    'vite:extendConfig'(config, { isClient }) {
      const input = config.build?.rollupOptions?.input as Record<string, string> | undefined
      if (isClient && process.env.NODE_ENV === 'development' && input?.entry) input.server = input.entry
    },
  },
  nitro: {
    prerender: { routes: ['/'] },
    typescript: { tsConfig: { include: ['../types/**/*.d.ts'] } },
    serverAssets: [{ baseName: 'demo', dir: fileURLToPath(new URL('./demo/songs', import.meta.url)) }, { baseName: 'analyses', dir: fileURLToPath(new URL('./demo/analyses', import.meta.url)) }],
  },
  routeRules: {
    '/**': { headers: { 'X-Content-Type-Options': 'nosniff', 'Referrer-Policy': 'no-referrer', 'X-Frame-Options': 'DENY', 'Cross-Origin-Opener-Policy': 'same-origin' } },
  },
  vite: { worker: { format: 'es' } },
  vuetify: {
    vuetifyOptions: {
      icons: { defaultSet: 'mdi-svg' },
      defaults: { VBtn: { variant: 'text', rounded: 'sm' }, VTextField: { variant: 'outlined', density: 'compact', hideDetails: 'auto' }, VSelect: { variant: 'outlined', density: 'compact', hideDetails: 'auto' } },
      theme: { cspNonce: styleNonce, defaultTheme: 'system', themes: { light: lightTheme, dark: darkTheme } },
    },
  },
  pwa: {
    registerType: 'autoUpdate',
    manifest: {
      name: 'Synchorda', short_name: 'Synchorda', description: 'Chart every guitar and bass of a recorded song against its form.',
      theme_color: '#1E5B4F', background_color: '#F4EEE2', icons: [{ src: '/icon.svg', sizes: 'any', type: 'image/svg+xml' }],
    },
    workbox: {
      globPatterns: ['**/*.{js,css,html,woff2,ttf,svg,wasm,json,sf3}'],
      navigateFallback: '/',
      navigateFallbackDenylist: [/^\/api\//],
      maximumFileSizeToCacheInBytes: 8 * 1024 * 1024,
      runtimeCaching: [{ urlPattern: /\/api\/demo/, handler: 'NetworkFirst', options: { cacheName: 'demo' } }, { urlPattern: /\/demo\/.*\.ogg$/, handler: 'CacheFirst', options: { cacheName: 'demo-recordings' } }],
    },
  },
})
