import { QueryClientProvider } from '@tanstack/react-query'
import { setNonce } from 'get-nonce'
import { StrictMode } from 'react'
import { createRoot } from 'react-dom/client'
import './host.css'
import { speak } from '../say'
import { queryClient } from './queries'

// Radix writes style tags, which the page's policy allows only with its nonce.
const nonce = document.querySelector<HTMLMetaElement>('meta[property=csp-nonce]')?.nonce
if (nonce) setNonce(nonce)

// The document comes in the language of whoever is signed in. The views are loaded after what they say.
await speak(document.documentElement.lang)
const { App } = await import('./App')

const root = document.getElementById('root')
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queryClient}>
        <App />
      </QueryClientProvider>
    </StrictMode>,
  )
