// npm run ratio: lines of tests against lines of code, and their share of both together.
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'

const files = execFileSync('git', ['ls-files', '*.ts', '*.vue', '*.mjs'], { encoding: 'utf8' })
  .trim()
  .split('\n')
const isTest = (file) => /\.(test|spec)\.ts$|^tests\//.test(file)
const lines = (list) => list.reduce((sum, file) => sum + readFileSync(file, 'utf8').split('\n').length - 1, 0)
const tests = lines(files.filter(isTest))
const code = lines(files.filter((file) => !isTest(file)))
console.log(
  `${tests} lines of tests to ${code} lines of code: ${((100 * tests) / code).toFixed(1)} % of the code, ` +
    `${((100 * tests) / (tests + code)).toFixed(1)} % of all`,
)
