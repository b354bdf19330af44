import { fileURLToPath } from 'node:url'
import { build, type Plugin, type Rollup } from 'vite'

/** What stands in the pages where the server puts a fresh nonce. */
export const nonce = 'NONCE_OF_THIS_ANSWER'

const once = fileURLToPath(new URL('src/page/once.ts', import.meta.url))

/**
 * Builds src/page/first.tsx, which draws a type's page before React has come. Its components are the living page's, so it is a
 * build of its own, in which a smaller library stands in for React. What comes out stands in type.html itself: with a slow line
 * each request more is a wait. What the living page needs is in a template until first.tsx lets it out, so that it doesn't hold
 * up what the drawing needs.
 */
export function firstDrawing(): Plugin {
  let made: Rollup.RollupOutput['output'][number][] = []
  return {
    name: 'first-drawing',
    apply: 'build',
    async buildStart() {
      const [built] = (await build({
        configFile: false,
        logLevel: 'warn',
        resolve: {
          alias: { 'react/jsx-runtime': 'preact/jsx-runtime', react: once, 'openapi-fetch': once, './beside': once },
        },
        define: { 'process.env.NODE_ENV': '"production"' },
        build: {
          write: false,
          lib: { entry: 'src/page/first.tsx', formats: ['es'], fileName: 'assets/first' },
          rollupOptions: { output: { chunkFileNames: 'assets/[name]-[hash].js', minify: true } },
        },
      })) as Rollup.RollupOutput[]
      made = built?.output ?? []
    },
    generateBundle() {
      for (const file of made)
        if (file.type === 'chunk' && !file.isEntry)
          this.emitFile({ type: 'asset', fileName: file.fileName, source: file.code })
    },
    transformIndexHtml: {
      order: 'post',
      handler(html, { path }) {
        const entry = made.find((file) => file.type === 'chunk' && file.isEntry)
        if (entry?.type !== 'chunk' || !path.endsWith('type.html')) return
        const late = { living: '', styles: '' }
        const rest = html.replace(
          /<(script type="module"|link rel="(modulepreload|stylesheet)")[^>]*>(<\/script>)?/g,
          (element) => {
            late[element.includes('stylesheet') ? 'styles' : 'living'] += element
            return element.includes('stylesheet') ? element.replace('"stylesheet"', '"preload" as="style"') : ''
          },
        )
        // A script waits for styles that stand before it; this one is to draw while they are on their way.
        const script = `<script nonce="${nonce}">(async () => {${inDocument(entry)}})()</script>`
        const template = `<template id="living">${late.living}</template>`
        return rest.replace('</body>', () => `${template}${script}${late.styles}</body>`)
      },
    },
  }
}

/** The code as it can stand in a document, whose address is not that of the files it loads when they are needed. */
function inDocument({ code, dynamicImports }: Rollup.OutputChunk): string {
  for (const file of dynamicImports) {
    const name = file.replace('assets/', './')
    if (!code.includes(name)) throw new Error(`first.tsx should load ${name}, but doesn't name it so`)
    code = code.replaceAll(name, `/${file}`)
  }
  return code.replaceAll('</script', '<\\/script')
}
