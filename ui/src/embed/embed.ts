/**
 * Puts a page of Corrim into another page. It is a link that the element makes more of:
 *
 *   <corrim-page as="inside"><a href="https://…/p/workspace/type">Choose a time</a></corrim-page>
 *   <script src="https://…/embed.js" async></script>
 *
 * as: "inside" the page (as tall as its content), behind a "button" (in a dialog), or left as a "link". type, language, colour, answers and
 * via say what the link's address says too. Without scripts, or where a policy forbids frames, the link is what there is. The page around
 * hears corrim-opened, corrim-chosen and corrim-booked, as events of the element, and nothing of whom they are about.
 */

const styles = `
:host { display: block }
:host([as=button]), :host([as=link]) { display: inline-block }
iframe { display: block; width: 100%; height: 30rem; border: 0; color-scheme: normal }
button { font: inherit; font-weight: 600; cursor: pointer; border: 0; border-radius: 3px; padding: .6em 1.1em; background: var(--corrim-colour, #0b5a5e); color: var(--corrim-on, #fff) }
button:focus-visible { outline: 2px solid; outline-offset: 2px }
dialog { box-sizing: border-box; width: min(72rem, 100vw - 1.5rem); max-height: calc(100dvh - 1.5rem); overflow: auto; border: 0; border-radius: 3px; padding: 0; background: #fcfcfa }
dialog::backdrop { background: #17211f99 }
.close { position: sticky; top: 0; float: right; z-index: 1; margin: .4rem; padding: .2em .7em; background: #fcfcfa; color: #17211f; border: 1px solid #67736f }
`

const closeIn = { en: 'Close', de: 'Schließen', fr: 'Fermer', nl: 'Sluiten', pt: 'Fechar' }

/** What the page inside says (ui/src/page/embedded.ts). */
interface Said {
  height?: number
  what?: 'opened' | 'chosen' | 'booked' | 'close'
}

class CorrimPage extends HTMLElement {
  static readonly observedAttributes = ['as', 'type', 'language', 'colour', 'answers', 'via']
  #root = this.attachShadow({ mode: 'open' })
  #frame: HTMLIFrameElement | null = null
  #end = new AbortController()

  connectedCallback() {
    const sheet = new CSSStyleSheet() // which a strict policy lets through, unlike an element
    sheet.replaceSync(styles)
    this.#root.adoptedStyleSheets = [sheet]
    this.#end = new AbortController()
    const { signal } = this.#end
    addEventListener('message', (event) => this.#hear(event), { signal })
    document.addEventListener('securitypolicyviolation', (event) => this.#refused(event), { signal })
    this.#draw()
  }

  disconnectedCallback() {
    this.#end.abort()
  }

  attributeChangedCallback() {
    if (this.isConnected) this.#draw()
  }

  get #link() {
    return this.querySelector('a')
  }

  /** The link's address, with what the attributes say. */
  get #address(): URL | null {
    const href = this.#link?.href
    if (!href || !URL.canParse(href)) return null
    const address = new URL(href)
    const type = this.getAttribute('type')
    if (type) address.pathname = `${address.pathname.split('/').slice(0, 3).join('/')}/${encodeURIComponent(type)}`
    for (const name of ['language', 'colour', 'via']) {
      const value = this.getAttribute(name)
      if (value) address.searchParams.set(name, value)
    }
    for (const [name, value] of new URLSearchParams(this.getAttribute('answers') ?? ''))
      address.searchParams.append(name, value)
    return address
  }

  #draw() {
    const address = this.#address
    const as = this.getAttribute('as')
    if (!address || (as !== 'inside' && as !== 'button')) {
      if (address && this.#link) this.#link.href = address.href
      this.#root.replaceChildren(document.createElement('slot'))
      return
    }
    if (as === 'inside') this.#root.replaceChildren(this.#newFrame(address))
    else this.#drawButton(address)
  }

  #newFrame(address: URL): HTMLIFrameElement {
    const frame = document.createElement('iframe')
    const inside = new URL(address)
    inside.searchParams.set('frame', '1')
    frame.src = inside.href
    frame.title = this.#label
    this.#frame = frame
    return frame
  }

  get #label() {
    return this.#link?.textContent?.trim() || this.#address?.href || ''
  }

  #drawButton(address: URL) {
    const button = document.createElement('button')
    button.textContent = this.#label
    const colour = this.getAttribute('colour')
    if (colour) {
      button.style.setProperty('--corrim-colour', colour)
      button.style.setProperty('--corrim-on', isLight(colour) ? '#121a1a' : '#fff')
    }
    const dialog = document.createElement('dialog')
    dialog.setAttribute('aria-label', this.#label)
    const shut = document.createElement('button')
    shut.className = 'close'
    const language = (this.getAttribute('language') ?? document.documentElement.lang).slice(0, 2)
    shut.textContent = closeIn[language as keyof typeof closeIn] ?? closeIn.en
    shut.onclick = () => dialog.close()
    // What was begun inside stays when the dialog is shut and opened again.
    button.onclick = () => {
      if (!dialog.querySelector('iframe')) dialog.append(shut, this.#newFrame(address))
      dialog.showModal()
    }
    this.#root.replaceChildren(button, dialog)
  }

  #hear({ source, origin, data }: MessageEvent) {
    const said: Said | undefined = data?.corrim
    const frame = this.#frame
    if (!said || !frame || source !== frame.contentWindow || origin !== this.#address?.origin) return
    if (typeof said.height === 'number') frame.style.height = `${said.height}px`
    if (said.what === 'close') this.#root.querySelector('dialog')?.close()
    else if (said.what) this.dispatchEvent(new CustomEvent(`corrim-${said.what}`, { bubbles: true, composed: true }))
  }

  /** A policy of the page around that forbids the frame: the link stays, and whoever looks after the page is told what to add. */
  #refused({ effectiveDirective, blockedURI }: SecurityPolicyViolationEvent) {
    const origin = this.#address?.origin
    if (!origin || !this.#frame || effectiveDirective !== 'frame-src' || !blockedURI.startsWith(origin)) return
    console.warn(`Corrim: add ${origin} to frame-src in this page's Content-Security-Policy.`)
    this.#frame = null
    this.#root.replaceChildren(document.createElement('slot'))
  }
}

/** Whether dark letters can be read better on a colour like #0b5a5e (WCAG 2.2, relative luminance). */
function isLight(colour: string): boolean {
  const [red = 0, green = 0, blue = 0] = [1, 3, 5].map(
    (i) => (Number.parseInt(colour.slice(i, i + 2), 16) / 255) ** 2.2,
  )
  return 0.2126 * red + 0.7152 * green + 0.0722 * blue > 0.18
}

if (!customElements.get('corrim-page')) customElements.define('corrim-page', CorrimPage)
