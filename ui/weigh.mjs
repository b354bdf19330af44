// The scripts of the host's first view, gzipped, by language: what index.html names, and what that loads before anything is drawn.
import { readdirSync, readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'

const assets = new URL('./dist/assets/', import.meta.url)
const text = (name) => readFileSync(new URL(name, assets), 'utf8')
const named = (source, pattern) => [...source.matchAll(pattern)].map(([, name]) => name)

/** The scripts and all that they import, however far down. */
function withImports(names, all = new Set()) {
  for (const name of names) {
    if (all.has(name)) continue
    all.add(name)
    withImports(named(text(name), /(?:from|import)\s*"\.\/([^"]+\.js)"/g), all)
  }
  return all
}

const page = readFileSync(new URL('../index.html', assets), 'utf8')
const [app] = readdirSync(assets).filter((name) => /^App-.*\.js$/.test(name))
for (const language of ['en', 'de']) {
  const own = readdirSync(assets).filter((name) => name.startsWith(`${language}-`) && text(name).includes('corrim'))
  const bytes = [...withImports([...named(page, /assets\/([^"]+\.js)"/g), app, ...own])]
    .map((name) => gzipSync(text(name), { level: 9 }).length)
    .reduce((sum, one) => sum + one, 0)
  console.log(`  ${language.padEnd(34)} ${String(bytes).padStart(7)} gzipped`)
}
