/** Asks for one of many things at a time, yet in few requests: what is asked for within a moment goes together, at most so many at once,
 *  one request after the other. What the answer lacks is null. */
export function gathered<T extends { id: number }>(
  most: number,
  ask: (ids: number[]) => Promise<T[]>,
): (id: number) => Promise<T | null> {
  let waiting: { id: number; done: (found: T | null) => void; failed: (reason: unknown) => void }[] = []
  let asking = false

  async function askForAll() {
    await new Promise((wake) => setTimeout(wake, 5))
    while (waiting.length > 0) {
      const now = waiting.slice(0, most)
      waiting = waiting.slice(most)
      try {
        const found = await ask([...new Set(now.map((one) => one.id))])
        for (const one of now) one.done(found.find(({ id }) => id === one.id) ?? null)
      } catch (reason) {
        for (const one of now) one.failed(reason)
      }
    }
    asking = false
  }

  return (id) =>
    new Promise((done, failed) => {
      waiting.push({ id, done, failed })
      if (asking) return
      asking = true
      void askForAll()
    })
}
