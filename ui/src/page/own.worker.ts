import { busyIn } from './own'

/** Reads a calendar off the page's thread; null says that the text is none. */
addEventListener('message', async ({ data }: MessageEvent<{ text: string; from: Date; to: Date }>) => {
  try {
    postMessage(await busyIn(data.text, data.from, data.to))
  } catch {
    postMessage(null)
  }
})
