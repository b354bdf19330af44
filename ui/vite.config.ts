import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vitest/config'
import { behind } from './dev.config.ts'
import { embedding } from './embed.config.ts'
import { firstDrawing, nonce } from './first.config.ts'

// Two bundles: the host's application, and the client's page, which stays small; type.html has it drawn before it lives.
export default defineConfig({
  plugins: [react(), tailwindcss(), firstDrawing(), embedding(), behind()],
  html: { cspNonce: nonce },
  test: { setupFiles: ['src/say/inEnglish.ts', 'src/patience.setup.ts'], testTimeout: 60_000 },
  server: { proxy: { '/api': 'http://localhost:8080', '/i/': 'http://localhost:8080' } },
  build: {
    emptyOutDir: true,
    assetsInlineLimit: 0,
    rollupOptions: { input: ['index.html', 'page.html', 'type.html'] },
  },
})
