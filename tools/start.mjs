// npm start: installs what is missing, builds when needed, serves, prints the address.
import { build, installPackages, isBuilt, run } from './setup.mjs'

installPackages()
if (!isBuilt()) {
  console.log('Building …')
  build()
}
const port = process.env.PORT ?? '3000'
const host = process.env.HOST ?? '127.0.0.1'
console.log(
  `\nSynchorda is at  http://${host === '0.0.0.0' ? 'localhost' : host}:${port}\nStop it with Ctrl C.\n`,
)
process.exit(
  run('node', ['.output/server/index.mjs'], {
    env: { ...process.env, PORT: port, HOST: host },
    stdio: ['inherit', 'ignore', 'inherit'],
  }),
)
