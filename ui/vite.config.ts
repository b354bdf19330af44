import tailwindcss from '@tailwindcss/vite'
import react from '@vitejs/plugin-react'
import { defineConfig } from 'vite'

// Two entries, two bundles: the host's application, and the client's page, which stays small.
export default defineConfig({
  plugins: [react(), tailwindcss()],
  html: { cspNonce: 'NONCE_OF_THIS_ANSWER' },
  server: { proxy: { '/api': 'http://localhost:8080' } },
  build: {
    emptyOutDir: true,
    assetsInlineLimit: 0,
    rollupOptions: { input: ['index.html', 'page.html'] },
  },
})
