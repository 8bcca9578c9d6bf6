// npm run evaluate:calls [-- shown|own] [--list]: how calls are read that people said: exactly, partly (with
// an assumption or a left-over word shown), asked, refused, or silently misread.
import { judge, ownCalls, shownCalls, type SaidCall, type Verdict } from '../tests/support/said-calls'

const VERDICTS: readonly Verdict[] = ['exact', 'partial', 'asked', 'refused', 'silent misreading']
const args = process.argv.slice(2)
const list = args.includes('--list')
const wanted = args.filter((arg) => !arg.startsWith('--'))

function row(name: string, calls: readonly SaidCall[]): string {
  const judged = calls.map((said) => ({ said, ...judge(said) }))
  if (list)
    for (const { said, verdict, words } of judged)
      if (verdict !== 'exact') console.log(`${verdict}: ${said.call}\n    ${words}`)
  const counts = VERDICTS.map((verdict) => {
    const count = judged.filter((one) => one.verdict === verdict).length
    return `${count} (${((100 * count) / calls.length).toFixed(1)} %)`.padStart(14)
  })
  return [name.padEnd(8), String(calls.length).padStart(5), ...counts].join('  ')
}

const sets: Record<string, () => SaidCall[]> = { shown: shownCalls, own: ownCalls }
for (const name of wanted)
  if (!Object.hasOwn(sets, name))
    throw new Error(`There is no set “${name}”: ${Object.keys(sets).join(', ')}.`)
console.log(['set     ', 'calls', ...VERDICTS.map((verdict) => verdict.padStart(14))].join('  '))
for (const [name, calls] of Object.entries(sets))
  if (wanted.length === 0 || wanted.includes(name)) console.log(row(name, calls()))
