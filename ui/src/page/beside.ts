import { type Busy, busyIn } from './own'

/** The busy times of a calendar (own.ts), read beside the page so that the page answers meanwhile. */
export function busyInBackground(text: string, from: Date, to: Date): Promise<Busy[]> {
  if (typeof Worker === 'undefined') return busyIn(text, from, to)
  const worker = new Worker(new URL('./own.worker.ts', import.meta.url), { type: 'module' })
  return new Promise<Busy[]>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<Busy[] | null>) =>
      data ? resolve(data) : reject(new Error('no calendar'))
    worker.onerror = () => reject(new Error('no calendar'))
    worker.postMessage({ text, from, to })
  }).finally(() => worker.terminate())
}
