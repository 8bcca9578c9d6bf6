import { createHash } from 'node:crypto'

// Zod probes for `eval` unless told not to: core/zod-plain.ts tells it, or this policy would be reported
// against on every page. A strict policy: only this origin, plus what the sound needs (blob: for the
// stretcher's worklet, wasm-unsafe-eval for it and the FFT). The page's own inline scripts are allowed by
// their hash. The theme's one generated style element carries the nonce of this build.
export default defineNitroPlugin((nitro) => {
  nitro.hooks.hook('render:html', (html) => {
    const whole = [...html.head, ...html.bodyPrepend, ...html.body, ...html.bodyAppend].join('')
    const hash = (body: string): string => `'sha256-${createHash('sha256').update(body).digest('base64')}'`
    const scripts = [...whole.matchAll(/<script(?![^>]*\bsrc=)[^>]*>([\s\S]*?)<\/script>/g)].map((match) =>
      hash(match[1]!),
    )
    const styles = [...whole.matchAll(/<style[^>]*>([\s\S]*?)<\/style>/g)].map((match) => hash(match[1]!))
    const policy = [
      `default-src 'self'`,
      `script-src 'self' 'wasm-unsafe-eval' blob: ${scripts.join(' ')}`,
      `style-src 'self' 'nonce-${useRuntimeConfig().public.styleNonce}' ${styles.join(' ')}`,
      `img-src 'self' blob: data:`,
      `media-src 'self' blob:`,
      `connect-src 'self' blob:`,
      `worker-src 'self' blob:`,
      `font-src 'self'`,
      `object-src 'none'`,
      `base-uri 'none'`,
      `form-action 'none'`,
    ].join('; ')
    html.head.unshift(`<meta http-equiv="Content-Security-Policy" content="${policy}">`)
  })
})
