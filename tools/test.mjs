// npm test: installs what is missing, then lint, types, unit tests, build, browser tests. The last line
// counts what passed.
import { readFileSync, rmSync, mkdirSync } from 'node:fs'
import { build, CHROMIUM, installChromium, installPackages, must, run, runBeside } from './setup.mjs'

installPackages()
installChromium()
mkdirSync('.cache', { recursive: true })
let passed = 0
let failed = 0
const stage = (name, status) => {
  console.log(`\n== ${name}: ${status === 0 ? 'ok' : 'FAILED'}\n`)
  if (status === 0) passed++
  else failed++
}
const counted = (file, read) => {
  try {
    const [good, bad] = read(JSON.parse(readFileSync(file, 'utf8')))
    passed += good
    failed += bad
  } catch {
    failed++
  }
}

must('npx', ['nuxt', 'prepare'], { stdio: ['ignore', 'ignore', 'inherit'] })
/** One after the other; two such rows keep two cores busy. */
async function stages(row) {
  for (const [name, ...args] of row) {
    const { status, output } = await runBeside('npx', args)
    console.log(output.trim())
    stage(name, status)
  }
}
await Promise.all([
  stages([
    ['format', 'prettier', '--check', '.', '--log-level', 'warn'],
    ['lint', 'eslint', '.'],
  ]),
  stages([
    ['types', 'nuxt', 'typecheck'],
    ['unused exports', 'knip', '--no-progress'],
  ]),
])
rmSync('.cache/unit.json', { force: true })
run('npx', ['vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=.cache/unit.json'])
counted('.cache/unit.json', (report) => [
  report.numPassedTests,
  report.numFailedTests + (report.success || report.numFailedTests ? 0 : 1),
])
console.log('\nBuilding …')
build()
rmSync('.cache/browser.json', { force: true })
run('npx', ['playwright', 'test', '--reporter=list,json'], {
  env: { ...process.env, CHROMIUM_PATH: CHROMIUM, PLAYWRIGHT_JSON_OUTPUT_NAME: '.cache/browser.json' },
})
counted('.cache/browser.json', (report) => [
  report.stats.expected + report.stats.flaky,
  report.stats.unexpected + (report.errors?.length ? 1 : 0),
])
console.log(`\n${passed} passed, ${failed} failed`)
process.exit(failed === 0 ? 0 : 1)
