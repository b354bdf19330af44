import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button, SelectField, TextArea, TextField } from '../../kit/kit'
import { Sortable } from '../../kit/Sortable'
import { say } from '../../say'
import { answerInWords } from '../steps'
import { freshID } from './fresh'

type Question = Schemas['Question']

const kinds: Record<Question['kind'], string> = {
  short: say.bookingPage.aLine,
  long: say.bookingPage.severalLines,
  number: say.bookingPage.number,
  one: say.bookingPage.oneSeveral,
  several: say.bookingPage.anySeveral,
  'yes-no': say.bookingPage.yesNo,
  phone: say.bookingPage.phoneNumber,
  address: say.bookingPage.address,
  web: say.bookingPage.webAddress,
  date: say.bookingPage.date,
  file: say.bookingPage.filePdfPngJpeg,
  terms: say.bookingPage.termsTick,
}

interface Props {
  questions: Question[]
  wrong: Record<string, string>
  /** Whether clients bring others, who can be asked too. */
  along: boolean
  onChange: (questions: Question[]) => void
}

/** The questions in their order; one at a time is opened to be edited. */
export function QuestionList({ questions, wrong, along, onChange }: Props) {
  const [opened, setOpened] = useState<string | null>(null)
  const set = (id: string, change: Partial<Question>) =>
    onChange(questions.map((q) => (q.id === id ? { ...q, ...change } : q)))
  const add = () => {
    const id = freshID(questions)
    onChange([...questions, { id, kind: 'short', label: '' }])
    setOpened(id)
  }
  return (
    <>
      <Sortable
        items={questions}
        keyOf={(q) => q.id}
        nameOf={(q) => q.label || say.bookingPage.theQuestion}
        onOrder={onChange}
        label={say.bookingPage.questions}
      >
        {(question, i) => {
          const problem = wrong[`questions.${i}`]
          return (
            <div className="border-t border-rule py-2">
              <p className="flex flex-wrap items-baseline gap-x-4">
                <button
                  type="button"
                  className="link font-semibold"
                  aria-expanded={opened === question.id}
                  onClick={() => setOpened(opened === question.id ? null : question.id)}
                >
                  {question.label || say.bookingPage.untitledQuestion}
                </button>
                <span className="text-note text-ink-2">{inWords(question, questions)}</span>
                {problem && opened !== question.id && <span className="text-note text-need">{problem}</span>}
              </p>
              {opened === question.id && (
                <Edit
                  question={question}
                  earlier={questions.slice(0, i)}
                  along={along}
                  problem={problem}
                  onChange={(change) => set(question.id, change)}
                  onRemove={() => onChange(questions.filter((q) => q.id !== question.id))}
                />
              )}
            </div>
          )
        }}
      </Sortable>
      <p className="mt-2">
        <Button kind="plain" onClick={add}>
          {say.bookingPage.addQuestion}
        </Button>
      </p>
    </>
  )
}

/** "one of several, has to be answered, only if “Is it a loan?” is yes" */
function inWords({ kind, required, everybody, when }: Question, all: Question[]): string {
  const words: string[] = [kinds[kind]]
  if (required && kind !== 'terms') words.push(say.bookingPage.mustBeAnswered)
  if (everybody) words.push(say.bookingPage.ofEverybody)
  const on = when && all.find((q) => q.id === when.question)
  if (on)
    words.push(
      say.bookingPage.onlyIf(
        on.label,
        when.is.map((what) => answerInWords({ what, kind: on.kind })),
      ),
    )
  return words.join(', ')
}

interface EditProps {
  question: Question
  earlier: Question[]
  along: boolean
  problem: string | undefined
  onChange: (change: Partial<Question>) => void
  onRemove: () => void
}

function Edit({ question, earlier, along, problem, onChange, onRemove }: EditProps) {
  const choice = question.kind === 'one' || question.kind === 'several'
  const toKind = (kind: Question['kind']) =>
    onChange({ kind, options: kind === 'one' || kind === 'several' ? (question.options ?? ['', '']) : [] })
  return (
    <div className="mt-2 mb-2 grid gap-3 border-l-3 border-act pl-4">
      <TextField
        label={say.bookingPage.question}
        value={question.label}
        problem={problem}
        onChange={(event) => onChange({ label: event.target.value })}
      />
      <div className="grid gap-5 sm:grid-cols-2">
        <SelectField
          label={say.bookingPage.takes}
          value={question.kind}
          onChange={(event) => toKind(event.target.value as Question['kind'])}
        >
          {Object.entries(kinds).map(([kind, words]) => (
            <option key={kind} value={kind}>
              {words}
            </option>
          ))}
        </SelectField>
        <TextField
          label={say.bookingPage.helpBelow}
          placeholder={say.bookingPage.noHelp}
          value={question.help ?? ''}
          onChange={(event) => onChange({ help: event.target.value })}
        />
      </div>
      {choice && (
        <TextArea
          label={say.bookingPage.answersChooseFromOne}
          rows={3}
          value={question.options?.join('\n') ?? ''}
          onChange={(event) => onChange({ options: event.target.value.split('\n') })}
        />
      )}
      <Condition question={question} earlier={earlier} onChange={onChange} />
      <p className="flex gap-6">
        {question.kind !== 'terms' && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-act"
              checked={question.required ?? false}
              onChange={(event) => onChange({ required: event.target.checked })}
            />
            {say.bookingPage.itMustBeAnswered}
          </label>
        )}
        {along && question.kind !== 'terms' && question.kind !== 'file' && (
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="accent-act"
              checked={question.everybody ?? false}
              onChange={(event) => onChange({ everybody: event.target.checked })}
            />
            {say.bookingPage.askedOfEverybody}
          </label>
        )}
        <button type="button" className="link" onClick={onRemove}>
          {say.bookingPage.removeQuestion}
        </button>
      </p>
    </div>
  )
}

/** Whether it is put only if an earlier answer says so. */
function Condition({ question, earlier, onChange }: Pick<EditProps, 'question' | 'earlier' | 'onChange'>) {
  const usable = earlier.filter((q) => ['one', 'several', 'yes-no'].includes(q.kind))
  const { when } = question
  if (usable.length === 0 && !when) return null
  const on = usable.find((q) => q.id === when?.question)
  const answers = on?.kind === 'yes-no' ? ['yes', 'no'] : (on?.options ?? [])
  const choose = (id: string) => {
    const chosen = usable.find((q) => q.id === id)
    const first = chosen?.kind === 'yes-no' ? 'yes' : chosen?.options?.[0]
    onChange({ when: chosen ? { question: id, is: first ? [first] : [] } : undefined })
  }
  const toggle = (answer: string, set: boolean) =>
    when && onChange({ when: { ...when, is: set ? [...when.is, answer] : when.is.filter((a) => a !== answer) } })
  return (
    <div className="grid gap-5 sm:grid-cols-2">
      <SelectField
        label={say.bookingPage.put}
        value={when?.question ?? ''}
        onChange={(event) => choose(event.target.value)}
      >
        <option value="">{say.bookingPage.always}</option>
        {usable.map((q) => (
          <option key={q.id} value={q.id}>
            {say.bookingPage.ifAnswer(q.label)}
          </option>
        ))}
      </SelectField>
      {on && (
        <fieldset>
          <legend className="text-note text-ink-2">{say.bookingPage.anyThese}</legend>
          {answers.filter(Boolean).map((answer) => (
            <label key={answer} className="mr-4 inline-flex items-center gap-1.5">
              <input
                type="checkbox"
                className="accent-act"
                checked={when?.is.includes(answer) ?? false}
                onChange={(event) => toggle(answer, event.target.checked)}
              />
              {answerInWords({ what: answer, kind: on.kind })}
            </label>
          ))}
        </fieldset>
      )}
    </div>
  )
}
