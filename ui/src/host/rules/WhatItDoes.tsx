import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { api, need } from '../../api/client'
import { keys } from '../../api/keys'
import { DayRibbon } from '../../ribbon/DayRibbon'
import { axisFor } from '../../ribbon/geometry'
import { Ruler } from '../../ribbon/Ribbon'
import { say, told } from '../../say'
import { longDate } from '../../time/time'
import { useWorkspace } from '../queries'
import { useDebounced } from '../useDebounced'
import type { Rules } from './parts'

/** What a rule does, drawn on a made-up day as it is set now. The server computes it like any other day. */
export function WhatItDoes({ group, rules }: { group: string | undefined; rules: Rules }) {
  const [open, setOpen] = useState(false)
  if (!group) return null
  return (
    <details onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="w-fit cursor-pointer text-act">{say.rules.whatDoesDo}</summary>
      {open && <Drawn group={group} rules={rules} />}
    </details>
  )
}

function Drawn({ group, rules }: { group: string; rules: Rules }) {
  const fields = useWorkspace().data?.groups.flatMap(({ fields }) => fields)
  const { duration = 30, ...all } = useDebounced(rules)
  // Of a type's rules, those that a workspace has too.
  const still = Object.fromEntries(Object.entries(all).filter(([field]) => fields?.includes(field))) as typeof all
  const example = useQuery({
    queryKey: keys.tried.example(group, { ...still, duration }),
    queryFn: () => need(api.POST('/rules/example', { body: { group, minutes: duration, rules: still } })),
    enabled: fields !== undefined,
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
  })
  if (example.error) return <p className="my-1">{say.rules.soonRuleCanRead}</p>
  if (!example.data) return null
  const { ribbon, says } = example.data
  const axis = axisFor([...ribbon.open, ...ribbon.bookings], { from: 8 * 60, to: 18 * 60 })
  return (
    <div className="my-1.5">
      <p className="mb-1">{told(says)}</p>
      <Ruler axis={axis} />
      <DayRibbon day={ribbon} axis={axis} name={say.rules.example(longDate(ribbon.date))} />
    </div>
  )
}
