import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import { WhatItDoes } from './WhatItDoes'

/** The rules of a workspace, or of a type, which has a length too. */
export type Rules = Schemas['BookingRules'] & { duration?: number }

/** What the sentence of a rule is given. */
export interface RuleProps {
  rules: Rules
  unchanged: Rules
  wrong: Record<string, string>
  onChange: (change: Partial<Rules>) => void
  /** The name of its group, by which an address leads to it. */
  name?: string
  /** Are they the workspace's? And what is there to say of that? */
  follows?: boolean
  note?: ReactNode
}

interface RuleSentenceProps extends RuleProps {
  children: ReactNode
  /** Of the rules, of which it tells what is wrong with them. */
  fields: (keyof Rules)[]
  more?: string | undefined
}

/** A rule's sentence, with what is wrong with its fields and where it comes from. */
export function RuleSentence({ children, fields, more, ...props }: RuleSentenceProps) {
  const { wrong, name, follows = false, note, rules } = props
  return (
    <Sentence
      name={name}
      follows={follows}
      problems={fields.map((field) => wrong[`rules.${field}`]).filter((text) => text !== undefined)}
      note={
        <>
          {more && <p>{more}</p>}
          {note}
          <WhatItDoes group={name} rules={rules} />
        </>
      }
    >
      {children}
    </Sentence>
  )
}

interface RuleNumberProps extends RuleProps {
  field: 'before' | 'after' | 'step' | 'offset' | 'windowDays'
  label: string
}

/** A number in a rule's sentence. */
export function RuleNumber({ field, label, rules, unchanged, wrong, onChange }: RuleNumberProps) {
  return (
    <NumberPart
      label={label}
      value={Math.max(0, rules[field] ?? 0)}
      changed={(rules[field] ?? 0) !== (unchanged[field] ?? 0)}
      wrong={wrong[`rules.${field}`] !== undefined}
      onChange={(value) => onChange({ [field]: value })}
    />
  )
}

/** A rule as a sentence, with what is wrong or worth knowing below it. One that follows the workspace looks like what
 *  is set elsewhere. */
export function Sentence({
  children,
  note,
  problems,
  name,
  follows = false,
}: {
  children: ReactNode
  name?: string | undefined
  note?: ReactNode
  problems: string[]
  follows?: boolean
}) {
  return (
    <div className="border-b border-rule py-3.5" data-rule={name} data-follows={follows || undefined}>
      <p className="text-[16.5px] leading-[2]">{children}</p>
      {problems.map((problem) => (
        <p key={problem} role="alert" className="text-note text-need">
          {problem}
        </p>
      ))}
      {note && <div className="text-note text-ink-2">{note}</div>}
    </div>
  )
}

/** A part of a sentence that can be changed; a changed one is tinted. */
export function partLook(changed: boolean, wrong: boolean): string {
  return `field-sizing-content max-w-full border-0 border-b px-1.5 py-0.5 text-center leading-snug font-semibold figures in-data-follows:border-dotted in-data-follows:bg-transparent in-data-follows:font-normal ${wrong ? 'border-need text-need' : 'border-ink'} ${changed ? 'bg-act-soft text-act' : 'bg-sheet'}`
}

interface NumberPartProps {
  label: string
  value: number
  changed: boolean
  wrong: boolean
  onChange: (value: number) => void
}

export function NumberPart({ label, value, changed, wrong, onChange }: NumberPartProps) {
  return (
    <input
      type="number"
      inputMode="numeric"
      aria-label={label}
      aria-invalid={wrong || undefined}
      className={`number ${partLook(changed, wrong)}`}
      style={{ width: `${Math.max(2, String(value).length) + 2}ch` }}
      value={value}
      min={0}
      onChange={(event) => onChange(Math.round(event.target.valueAsNumber) || 0)}
    />
  )
}

interface ChoiceProps<T extends string> {
  label: string
  value: T
  /** Each with what it is called. */
  options: [value: T, words: string][]
  changed: boolean
  onChange: (chosen: T) => void
}

/** Options from what each is called. */
export function pairs<T extends string>(words: Record<T, string>): [value: T, words: string][] {
  return Object.entries(words) as [T, string][]
}

/** A part of a sentence chosen from a few. */
export function Choice<T extends string>({ label, value, options, changed, onChange }: ChoiceProps<T>) {
  return (
    <select
      aria-label={label}
      className={partLook(changed, false)}
      value={value}
      onChange={(event) => onChange(event.target.value as T)}
    >
      {options.map(([option, words]) => (
        <option key={option} value={option}>
          {words}
        </option>
      ))}
    </select>
  )
}
