import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Details } from '../../page/Details'
import { tonesOf } from '../../page/looks'
import { Sentence } from '../../page/Sentence'
import { nothingTyped, type Type, type Typed, useTyping } from '../../page/typed'
import { say } from '../../say'

/** The form as clients meet it. What is answered in it is an example, kept in this browser for the next look. */
export function Preview({ page, type }: { page: Schemas['Page']; type: number }) {
  const [typed, setTyped] = useExample(type)
  const [way, setWay] = useState('')
  const chosen = page.ways.some((w) => w.id === way) ? way : (page.ways[0]?.id ?? '')
  return (
    <section aria-label={say.bookingPage.formClientsMeet} style={tonesOf(page.looks)} className="[&_h1]:text-[19px]!">
      <p className="mb-2 text-note text-ink-2">{say.bookingPage.clientsMeetAnswerYourself}</p>
      <Sentence
        page={page}
        zone={page.zone}
        date={null}
        start={null}
        minutes={page.minutes}
        onMinutes={() => {}}
        host={0}
        onHost={() => {}}
        way={chosen}
        onWay={setWay}
      />
      <Details
        page={page}
        zone={page.zone}
        start={null}
        way={chosen}
        typed={typed}
        onType={setTyped}
        onBook={async () => {}}
        refusal={null}
        onNearest={() => {}}
      />
    </section>
  )
}

function useExample(type: number): [Typed, Type] {
  const key = `example ${type}`
  return useTyping(
    () => {
      try {
        return { ...nothingTyped, ...JSON.parse(localStorage.getItem(key) ?? '{}') }
      } catch {
        return nothingTyped
      }
    },
    (typed) => localStorage.setItem(key, JSON.stringify(typed)),
  )
}
