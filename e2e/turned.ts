import { type Browser, type BrowserContext, test as plain } from '@playwright/test'

// With NOW=2027-10-31T00:30:00Z, all journeys run as if it were then: the demo's clock, that of its pages, and ours. Clocks are turned
// forward only, for cookies end by the browser's own. With SLOW=800, each answer of the program takes up to so many milliseconds
// more, which shows where a journey goes on before what it needs is there.

if (process.env.NOW && !process.env.TURNED) process.env.TURNED = String(Date.parse(process.env.NOW) - Date.now()) // workers inherit it

/** By how many milliseconds the clock is turned. */
const turned = Number(process.env.TURNED ?? 0)

/** The flags of a program that is started now. */
export function turnedFlags(): string[] {
  return turned ? ['--now', `${new Date().toISOString().slice(0, 19)}Z`] : []
}

/** Turns the clock of whatever it runs in. */
function turn(by: number): void {
  const Untouched = globalThis.Date
  globalThis.Date = new Proxy(Untouched, {
    construct: (_, args, target) => Reflect.construct(Untouched, args.length ? args : [Untouched.now() + by], target),
    get: (_, name) => (name === 'now' ? () => Untouched.now() + by : Reflect.get(Untouched, name)),
  })
}

if (turned) turn(turned)

const slow = Number(process.env.SLOW ?? 0)

/** Lets each answer wait for a while. */
async function slowDown(context: BrowserContext): Promise<void> {
  await context.route('**/api/**', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, Math.random() * slow))
    await route.continue().catch(() => {}) // nobody waits for it any more
  })
}

async function changePages(browser: Browser): Promise<void> {
  const open = browser.newContext.bind(browser)
  browser.newContext = async (options) => {
    const context = await open(options)
    if (turned) await context.addInitScript(turn, turned)
    if (slow) await slowDown(context)
    return context
  }
}

/** A journey. */
export const test = turned || slow
  ? plain.extend<object, { clock: undefined }>({
      clock: [
        async ({ browser }, use) => {
          await changePages(browser)
          await use(undefined)
        },
        { scope: 'worker', auto: true },
      ],
    })
  : plain
