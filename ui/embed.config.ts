import { build, type Plugin, type Rollup } from 'vite'

/** Builds src/embed/embed.ts, which others' pages load: one file that depends on nothing, with a name that stays. */
export function embedding(): Plugin {
  return {
    name: 'embedding',
    apply: 'build',
    async generateBundle() {
      const [built] = (await build({
        configFile: false,
        logLevel: 'warn',
        build: {
          write: false,
          target: 'es2022',
          lib: { entry: 'src/embed/embed.ts', formats: ['iife'], name: 'corrim', fileName: () => 'embed.js' },
        },
      })) as Rollup.RollupOutput[]
      const file = built?.output[0]
      if (file?.type === 'chunk') this.emitFile({ type: 'asset', fileName: 'embed.js', source: file.code })
    },
  }
}
