import { render, type VNode } from 'preact'
import type { Schemas } from '../api/client'
import { addDays, speakDatesIn } from '../time/time'
import { Choice, type Of, useChoice } from './Choice'
import { Speaking } from './Frame'
import { peek } from './given'
import { LooksOf, paint, writeTimesAs } from './looks'
import { weeksShown } from './open'
import { keepPress } from './press'
import { bringIntoSight } from './Skyline'
import { ownLanguage, SpokenIn, textsIn } from './texts'
import { useWide } from './wide'

/**
 * Draws a type's page once, before React has come, from what came with the document. It is the same components as later,
 * built with a small stand-in for React (first.config.ts); main.tsx then puts the living page in its place.
 */
async function draw() {
  const page = peek('page')
  const prepared = peek('prepared')
  const root = document.getElementById('root')
  if (!page || !prepared || !peek('open') || !root) return
  const [, , workspace = '', type = ''] = location.pathname.split('/').map(decodeURIComponent)
  const language = ownLanguage()
  const texts = await textsIn(language)
  speakDatesIn(texts.dates)
  document.documentElement.lang = language
  const looks = prepared.looks ?? page.looks
  paint(looks)
  writeTimesAs(looks)
  const drawing = document.createElement('div')
  render(
    (
      <LooksOf value={looks}>
        <SpokenIn value={texts}>
          <Speaking.Provider value={{ language, onChange: () => {} }}>
            <FirstChoice workspace={workspace} type={type} page={page} prepared={prepared} />
          </Speaking.Provider>
        </SpokenIn>
      </LooksOf>
    ) as unknown as VNode,
    drawing,
  )
  keepPress(drawing)
  await styled()
  if (root.firstChild) return // the living page was faster
  root.append(drawing)
  const day = drawing.querySelector<HTMLElement>('[data-date][aria-pressed=true]')
  const weeks = day?.closest<HTMLElement>('[role=group]')
  if (!weeks) return
  // Room for a week more, so that this one can stand where it will.
  if (weeks.scrollWidth > weeks.clientWidth) weeks.append(document.createElement('div'))
  bringIntoSight(day?.dataset.date ?? '', weeks)
}

/** Drawing doesn't wait for the styles, which are on their way meanwhile; showing does. */
async function styled() {
  if (document.readyState === 'loading') await happens(document, 'DOMContentLoaded')
  const styles = document.querySelector<HTMLLinkElement>('link[rel=stylesheet]')
  if (styles && !styles.sheet) await Promise.race([happens(styles, 'load'), happens(styles, 'error')])
}

function happens(target: EventTarget, what: string) {
  return new Promise((done) => target.addEventListener(what, done, { once: true }))
}

/** Only what is seen at once is drawn: the details come with the living page, since nothing can be typed before, and on a phone
 *  so do the weeks after the day that is shown. */
function FirstChoice({ page, prepared, ...of }: Of & { page: Schemas['Page']; prepared: Schemas['Prepared'] }) {
  const choice = useChoice(of, page, prepared)
  const { date, times } = choice
  const wide = useWide()
  const look = times.look && { ...times.look, weeks: wide ? weeksShown : weeksUpTo(date, times.look.first) }
  return <Choice choice={{ ...choice, times: { ...times, look } }} home={`/p/${of.workspace}`} onChoose={() => {}} />
}

function weeksUpTo(date: string | null, first: string): number {
  let weeks = 1
  while (date && weeks < weeksShown && date >= addDays(first, 7 * weeks)) weeks += 1
  return weeks
}

/** Lets the living page come, which type.html holds back. */
function letLive() {
  const living = document.getElementById('living')
  if (living instanceof HTMLTemplateElement) document.head.append(living.content)
}

void draw().finally(letLive)
