// The small server beside the page: what scripts ask of it, and what it never gives.
import { readFileSync } from 'node:fs'
import { analysisSchema } from '../../core/hear/analysis'
import { clickSong, expect, test } from './support'

// One after the other: the server listens to one recording at a time.
test.describe.configure({ mode: 'default' })

test(
  'a recording sent by a script is heard as from the command line, and anything ' +
    'else is refused in words',
  async ({ request }) => {
    const { wav } = clickSong()
    const answer = await request.post('/api/analyse', {
      data: Buffer.from(wav),
      headers: { 'content-type': 'audio/wav' },
    })
    expect(answer.status()).toBe(200)
    const heard = await answer.json()
    expect(analysisSchema.safeParse(heard).success).toBe(true)
    // The clicks of the sample drift around two a second.
    const beats = heard.beats
      .map((beat: number | { seconds: number }) => (typeof beat === 'number' ? beat : beat.seconds))
      .filter((beat: number) => beat > 2 && beat < 14)
    expect(beats.length).toBeGreaterThan(10)
    for (const [index, beat] of beats.slice(1).entries())
      expect(Math.abs(beat - beats[index]! - 0.5)).toBeLessThan(0.12)
    for (const data of [Buffer.from('no sound at all'), Buffer.from(wav.subarray(0, 30))]) {
      const refused = await request.post('/api/analyse', { data, headers: { 'content-type': 'audio/wav' } })
      expect(refused.status()).toBe(400)
      expect(refused.statusText()).toContain('WAV')
    }
  },
)

test('demo songs are listed, given by name, and nothing else on the machine is', async ({ request }) => {
  const list = await (await request.get('/api/demo')).json()
  expect(JSON.stringify(list)).toContain('salt-on-the-signal')
  const song = await request.get('/api/demo/salt-on-the-signal')
  expect(song.status()).toBe(200)
  expect((await song.json()).title).toBe('Salt on the Signal')
  for (const name of [
    'nothing',
    '..%2F..%2Fpackage',
    '%2e%2e%2fpackage.json',
    'salt-on-the-signal%00',
    'recording/..%2F..%2Fpackage.json',
  ]) {
    const answer = await request.get(`/api/demo/${name}`)
    expect(answer.status(), name).toBeGreaterThanOrEqual(400)
    expect(await answer.text(), name).not.toContain('"dependencies"')
  }
})

test('the page may load nothing from elsewhere and run nothing that is not its own', async ({ request }) => {
  const html = await (await request.get('/')).text()
  const policy = /Content-Security-Policy" content="([^"]*)"/.exec(html)![1]!
  expect(policy).toContain("default-src 'self'")
  expect(policy).not.toMatch(/unsafe-inline|unsafe-eval(?<!wasm-unsafe-eval)|https?:|\*/)
  expect(policy).toContain("object-src 'none'")
  // Nothing in the built page names another host.
  const hosts = [...html.matchAll(/(?:src|href)="(https?:\/\/[^"]+)"/g)].map((match) => match[1])
  expect(hosts).toEqual([])
  expect(readFileSync('nuxt.config.ts', 'utf8')).not.toMatch(/https?:\/\//)
})

test('the analysis for scripts refuses what would hold the server, and pages of others', async ({
  request,
}) => {
  const { wav } = clickSong()
  const slow = Buffer.from(wav)
  slow.writeUInt32LE(1, 24)
  const post = (data: Buffer, headers: Record<string, string> = {}) =>
    request.post('/api/analyse', { data, headers: { 'content-type': 'audio/wav', ...headers } })
  const hertz = await post(slow)
  expect(hertz.status()).toBe(400)
  expect(hertz.statusText()).toContain('Sample rates')
  expect((await post(Buffer.from(wav), { origin: 'http://other.example' })).status()).toBe(403)
  expect((await post(Buffer.from(wav), { 'sec-fetch-site': 'cross-site' })).status()).toBe(403)
  // While one recording is listened to, everything else is answered, and a second one is sent away.
  const first = post(Buffer.from(wav))
  const started = Date.now()
  expect((await request.get('/api/demo')).status()).toBe(200)
  expect(Date.now() - started).toBeLessThan(2000)
  const statuses = [(await post(Buffer.from(wav))).status(), (await first).status()]
  expect(statuses).toContain(200)
  expect([200, 503]).toEqual(expect.arrayContaining(statuses))
})

test('unknown addresses and other methods say so, and every answer carries a policy', async ({ request }) => {
  expect((await request.get('/api/nothing')).status()).toBe(404)
  const wrong = await request.get('/api/analyse')
  expect(wrong.status()).toBe(405)
  expect(wrong.headers().allow).toBe('POST')
  expect((await request.delete('/api/demo/salt-on-the-signal')).status()).toBe(405)
  const page = (await request.get('/')).headers()['content-security-policy']!
  expect(page).toContain("frame-ancestors 'none'")
  const html = await (await request.get('/')).text()
  const script = /\/_nuxt\/[^"]+\.js/.exec(html)![0]
  expect((await request.get(script)).headers()['content-security-policy']).toContain("script-src 'self'")
})
