/** The page inside somebody else's page, which embed.ts has put there and tells how high the frame has to be. */
export const embedded = window.parent !== window && new URLSearchParams(location.search).has('frame')

/** A link from here to another of our pages: inside, that one is inside too. */
export function within(path: string): string {
  return embedded ? `${path}${path.includes('?') ? '&' : '?'}frame=1` : path
}

/** For links to others' pages, which rarely let themselves be shown inside. */
export const outside = embedded ? { target: '_blank', rel: 'noopener' } : {}

/** What the page around is told: what happens, and nothing of whom it happens to. */
export type Happening = 'opened' | 'chosen' | 'booked' | 'close'

// To whichever site it is: nothing that is said needs to be kept from any.
const say = (message: object) => window.parent.postMessage({ corrim: message }, '*')

export function tell(what: Happening): void {
  if (embedded) say({ what })
}

/** Tells the page around how high the content is, whenever that changes, and when Escape was pressed and nothing took it. */
export function tellWhatIsNeeded(root: HTMLElement): void {
  if (!embedded) return
  document.documentElement.dataset.embedded = ''
  new ResizeObserver(() => say({ height: Math.ceil(root.getBoundingClientRect().height) })).observe(root)
  addEventListener('keydown', (event) => {
    if (event.key === 'Escape' && !event.defaultPrevented) tell('close')
  })
}
