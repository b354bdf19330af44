import { test } from '@playwright/test'
import { signInAs } from './steps.ts'

/** How smoothly a year of days scrolls: what share of frames comes within 1/60 s (and a little) of the one before. */
test('a year of ribbons scrolls', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  await page.goto('/hours')
  const year = page.getByRole('region', { name: 'Days of the coming year' })
  await year.scrollIntoViewIfNeeded()
  await year.getByRole('group').first().waitFor()
  const frames = await year.evaluate(
    (element) =>
      new Promise<number[]>((done) => {
        const times: number[] = []
        const step = (now: number) => {
          times.push(now)
          element.scrollTop += 24
          if (element.scrollTop + element.clientHeight < element.scrollHeight - 1) requestAnimationFrame(step)
          else done(times.slice(1).map((time, i) => time - (times[i] ?? 0)))
        }
        requestAnimationFrame(step)
      }),
  )
  const total = frames.reduce((sum, length) => sum + length, 0)
  const smooth = frames.filter((length) => length < 20).length / frames.length
  console.log(`A year of ribbons scrolls at ${((1000 * frames.length) / total).toFixed(1)} frames a second; ${(100 * smooth).toFixed(1)} % of ${frames.length} frames on time`)
})
