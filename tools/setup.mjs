// Installs what is missing: the packages of the lock file, and for the tests Debian's Chromium. Needs only
// Node and npm.
import { spawn, spawnSync } from 'node:child_process'
import { existsSync, readFileSync, statSync, writeFileSync, mkdirSync } from 'node:fs'
import { createHash } from 'node:crypto'

export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { stdio: 'inherit', ...options })
  if (result.error) throw result.error
  return result.status ?? 1
}
/** The same beside others: what it prints is kept until it ends. */
export function runBeside(command, args) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'] })
    let output = ''
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (piece) => {
        output += piece
      })
    child.on('error', reject)
    child.on('close', (status) => resolve({ status: status ?? 1, output }))
  })
}
export function must(command, args, options) {
  const status = run(command, args, options)
  if (status !== 0) {
    console.error(`\n${command} ${args.join(' ')} failed (${status}).`)
    process.exit(status)
  }
}

const STAMP = 'node_modules/.synchorda-lock'
export function installPackages() {
  const lock = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex')
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === lock) return
  console.log('Installing the packages (once, a minute or two) …')
  must('npm', ['ci', '--no-audit', '--no-fund'])
  writeFileSync(STAMP, lock)
}

export const CHROMIUM = process.env.CHROMIUM_PATH ?? '/usr/bin/chromium'
export function installChromium() {
  if (existsSync(CHROMIUM)) return
  console.log('Installing Debian’s Chromium for the browser tests …')
  const sudo = process.getuid?.() === 0 ? [] : ['sudo']
  const apt = (...args) => {
    const [command, ...rest] = [...sudo, 'apt-get', ...args]
    return run(command, rest, { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } })
  }
  if (apt('update') !== 0 || apt('install', '-y', 'chromium') !== 0) {
    console.error('Chromium could not be installed: install the package "chromium", or set CHROMIUM_PATH.')
    process.exit(1)
  }
}

const BUILT = '.output/server/index.mjs'
const SOURCES = [
  'app',
  'core',
  'platform',
  'server',
  'public',
  'demo/songs',
  'demo/analyses',
  'nuxt.config.ts',
  'package-lock.json',
]
/** True when a build is there and no file it is made from is newer. */
export function isBuilt() {
  if (!existsSync(BUILT)) return false
  const result = spawnSync('find', [...SOURCES, '-newer', BUILT, '-type', 'f'], { encoding: 'utf8' })
  return result.status === 0 && result.stdout.trim() === '' && statSync(BUILT).size > 0
}
export function build() {
  mkdirSync('.cache', { recursive: true })
  must('npx', ['nuxt', 'build'], { stdio: ['ignore', 'ignore', 'inherit'] })
}
