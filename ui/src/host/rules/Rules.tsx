import type { ComponentType, ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { Buffers } from './Buffers'
import { Busy } from './Busy'
import { Holidays } from './Holidays'
import { Limits } from './Limits'
import { Notice } from './Notice'
import type { RuleProps, Rules } from './parts'
import { Step } from './Step'
import { Window } from './Window'

export type Group = Schemas['Group']

/** The one place where a rule's sentence is entered, by the name of its group. */
const sentences: Record<string, ComponentType<RuleProps>> = {
  buffers: Buffers,
  step: Step,
  notice: Notice,
  window: Window,
  limit: Limits,
  holidays: Holidays,
  busy: Busy,
}

interface Props {
  groups: Group[]
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (group: Group, change: Partial<Rules>) => void
  /** The names of the groups that follow the workspace; empty where its own rules are set. */
  follows?: string[]
  /** What stands below a group's sentence about where its rules come from. */
  note?: (group: Group) => ReactNode
}

/** The booking rules as sentences with parts to change: of a meeting type, or of the workspace for all of them. */
export function RuleSentences({ groups, onChange, follows = [], note, ...rules }: Props) {
  return groups.map((group) => {
    const Said = sentences[group.name]
    return (
      Said && (
        <Said
          key={group.name}
          {...rules}
          name={group.name}
          follows={follows.includes(group.name)}
          note={note?.(group)}
          onChange={(change) => onChange(group, change)}
        />
      )
    )
  })
}
