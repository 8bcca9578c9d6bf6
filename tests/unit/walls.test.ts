// The walls between folders really stand: a file that breaks one is refused by the linter, in every folder.
import { ESLint } from 'eslint'
import { beforeAll, describe, expect, it } from 'vitest'
import { CORE_FOLDERS } from '../../tools/lint/walls.mjs'

let eslint: ESLint
const WALLS = new Set(['no-restricted-imports', 'no-restricted-globals'])
/** What the linter says of walls for a file that holds this text. */
async function said(filePath: string, text: string): Promise<string[]> {
  const [result] = await eslint.lintText(text, { filePath })
  return result!.messages.filter(({ ruleId }) => WALLS.has(ruleId ?? '')).map(({ message }) => message)
}

beforeAll(() => {
  eslint = new ESLint({
    // The files looked at are made up: no program of types knows them.
    overrideConfig: {
      languageOptions: { parserOptions: { project: null } },
      rules: { '@typescript-eslint/no-floating-promises': 'off' },
    },
  })
})

describe('the walls between folders', () => {
  const folders = Object.entries(CORE_FOLDERS as Record<string, string[]>)
  it.each(folders)('core/%s knows neither page, Node nor platform', async (folder) => {
    for (const from of [
      'vue',
      'dexie',
      'node:fs',
      '#platform/database',
      '~/stores/song',
      '../../app/theme',
    ]) {
      const text = `import * as thing from '${from}'\nexport const used = thing\n`
      expect(await said(`core/${folder}/probe.ts`, text), from).toHaveLength(1)
      expect(await said(`core/${folder}/deeper/probe.ts`, text), from).toHaveLength(1)
    }
    for (const name of ['window', 'document', 'indexedDB', 'process'])
      expect(await said(`core/${folder}/probe.ts`, `export const used = ${name}\n`), name).toHaveLength(1)
  })

  it.each(folders)('core/%s imports only what is below it', async (folder, below) => {
    for (const [other] of folders) {
      if (other === folder) continue
      const text = `import * as thing from '../${other}/thing'\nexport const used = thing\n`
      const deep = `import * as thing from '../../${other}/deeper/thing'\nexport const used = thing\n`
      const wanted = below.includes(other) ? 0 : 1
      expect(await said(`core/${folder}/probe.ts`, text), `${folder} → ${other}`).toHaveLength(wanted)
      expect(await said(`core/${folder}/deeper/probe.ts`, deep), `${folder} → ${other}`).toHaveLength(wanted)
    }
  })

  it.each([
    ['platform/probe.ts', '~/stores/song'],
    ['platform/probe.ts', 'vue'],
    ['app/probe.ts', 'node:fs'],
    ['server/probe.ts', '~/stores/song'],
    ['server/probe.ts', '#platform/database'],
  ])('%s may not import %s', async (file, from) => {
    expect(await said(file, `import * as thing from '${from}'\nexport const used = thing\n`)).toHaveLength(1)
  })

  it('no folder of the core goes round in a circle', () => {
    const below = CORE_FOLDERS as Record<string, string[]>
    const reaches = (from: string, to: string, seen = new Set<string>()): boolean =>
      below[from]!.some((next) => next === to || (!seen.has(next) && reaches(next, to, seen.add(next))))
    for (const folder of Object.keys(below)) expect(reaches(folder, folder), folder).toBe(false)
  })
})
