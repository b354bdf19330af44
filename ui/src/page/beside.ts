import type { Schemas } from '../api/client'
import { type Busy, busyIn } from './own'

/** The busy times of a calendar (own.ts), read beside the page so that the page answers meanwhile. */
export function busyInBackground(text: string, from: Date, to: Date): Promise<Busy[]> {
  if (typeof Worker === 'undefined') return busyIn(text, from, to)
  const worker = new Worker(new URL('./own.worker.ts', import.meta.url), { type: 'module' })
  return answer<Busy[]>(worker, { text, from, to })
}

/** The answer to a puzzle (solve.ts), found beside the page. */
export async function solveInBackground(task: Schemas['PuzzleTask']): Promise<string> {
  if (typeof Worker === 'undefined') return (await import('./solve')).solve(task)
  const worker = new Worker(new URL('./solve.worker.ts', import.meta.url), { type: 'module' })
  return answer<string>(worker, task)
}

/** What a worker makes of something; it is not needed afterwards. */
function answer<T>(worker: Worker, something: unknown): Promise<T> {
  return new Promise<T>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<T | null>) => (data ? resolve(data) : reject(new Error('no answer')))
    worker.onerror = () => reject(new Error('no answer'))
    worker.postMessage(something)
  }).finally(() => worker.terminate())
}
