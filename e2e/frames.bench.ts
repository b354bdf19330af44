import { test } from '@playwright/test'
import { daysAfter, signInAs } from './steps.ts'

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

/** How smoothly a booking is carried over the board of all colleagues. */
test('a booking is carried over the board', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  const booking = page.getByRole('button', { name: /Move or cancel$/ }).last()
  // From tomorrow on, so that there is something to carry on a Saturday too.
  await page.goto(`/board?from=${daysAfter(new Date().toISOString().slice(0, 10), 1)}`)
  await booking.waitFor()
  const box = await booking.boundingBox()
  if (!box) throw new Error('no booking')
  const measured = page.evaluate(
    () =>
      new Promise<number[]>((done) => {
        const times: number[] = []
        const end = performance.now() + 3000
        const step = (now: number) => {
          times.push(now)
          if (now < end) requestAnimationFrame(step)
          else done(times.slice(1).map((time, i) => time - (times[i] ?? 0)))
        }
        requestAnimationFrame(step)
      }),
  )
  await page.mouse.move(box.x + 4, box.y + 10)
  await page.mouse.down()
  const began = Date.now()
  for (let i = 0; Date.now() - began < 2700; i++) {
    await page.mouse.move(400 + 350 * (1 + Math.sin(i / 25)), 250 + 120 * Math.sin(i / 60))
  }
  const frames = await measured
  await page.keyboard.press('Escape')
  await page.mouse.up()
  const total = frames.reduce((sum, length) => sum + length, 0)
  const smooth = frames.filter((length) => length < 20).length / frames.length
  console.log(`A booking is carried at ${((1000 * frames.length) / total).toFixed(1)} frames a second; ${(100 * smooth).toFixed(1)} % of ${frames.length} frames on time`)
})
