import { type ChildProcess, spawn, spawnSync } from 'node:child_process'
import { fileURLToPath } from 'node:url'
import type { Plugin, ViteDevServer } from 'vite'

const house = fileURLToPath(new URL('..', import.meta.url))
const rooms = ['cmd', 'core', 'internal'].map((room) => `${house}${room}`)

/** For `make dev`: the three pages as the server would give them, and the demo behind them, built and started anew whenever Go code,
 * SQL or words change. */
export function behind(): Plugin {
  return {
    name: 'behind',
    apply: (_config, { command, mode }) => command === 'serve' && mode === 'development', // not for unit tests
    configureServer(server) {
      keepRunning(server)
      server.middlewares.use((request, _response, next) => {
        request.url = pageFor(request.url ?? '/')
        next()
      })
    },
    transformIndexHtml: (html) => html.replace('"GIVEN_WITH_THIS_ANSWER"', 'null'),
  }
}

/** Which page the server gives for an address; files stay what they are. */
function pageFor(url: string): string {
  const path = url.split('?')[0] ?? '/'
  if (/^\/(@|src\/|node_modules\/|api\/|i\/)/.test(path) || /\.\w+$/.test(path)) return url
  if (/^\/p\/[^/]+\/[^/]+$/.test(path)) return '/type.html'
  return /^\/(p|b|o)\//.test(path) ? '/page.html' : '/index.html'
}

function keepRunning(server: ViteDevServer): void {
  let running: ChildProcess | undefined
  let later: ReturnType<typeof setTimeout> | undefined
  const start = () => {
    const built = spawnSync('go', ['build', '-o', 'bin/corrim-dev', './cmd/corrim'], { cwd: house, stdio: 'inherit' })
    if (built.status !== 0) return // what runs goes on until it can be built
    const begin = () => {
      running = spawn('bin/corrim-dev', ['demo'], { cwd: house, stdio: 'inherit' })
    }
    if (running?.exitCode === null) {
      running.once('exit', begin)
      running.kill('SIGINT')
    } else begin()
  }
  server.watcher.add(rooms)
  server.watcher.on('all', (_event, file) => {
    if (!rooms.some((room) => file.startsWith(`${room}/`)) || !/\.(go|sql|yaml|txt)$/.test(file)) return
    clearTimeout(later)
    later = setTimeout(start, 200)
  })
  server.httpServer?.once('close', () => running?.kill('SIGINT'))
  process.once('exit', () => running?.kill('SIGINT'))
  start()
}
