import { type ChangeEvent, useId, useState } from 'react'
import { Refusal, refusalOf, type Schemas } from '../api/client'
import { SelectField, TextArea, TextField } from '../kit/kit'
import { fitting, mostBytes } from './sending'
import { said as translated, useTexts } from './texts'

type Question = Schemas['Question']

interface Props {
  questions: Question[]
  said: Record<string, string[]>
  onSay: (id: string, values: string[]) => void
  problems: Record<string, Schemas['Words']>
  /** Names of files that were sent, by their tokens. */
  files?: Record<string, string>
  /** Sends a file as the answer to a question, and tells how much has gone, from 0 to 1. */
  sendFile?: ((id: string, file: File, share: (gone: number) => void) => Promise<void>) | undefined
}

/** Which questions are put: those without a condition, and those whose condition an answer to a shown one meets. The
 *  server decides; this only keeps the page from asking what it will not look at. */
export function shownOf(questions: Question[], said: Props['said']): Question[] {
  const shown: Question[] = []
  for (const question of questions) {
    const { when } = question
    const met =
      !when || (shown.some((q) => q.id === when.question) && said[when.question]?.some((v) => when.is.includes(v)))
    if (met) shown.push(question)
  }
  return shown
}

/** What the type asks of its clients, by the kind of each question. */
export function Questions({ questions, said, onSay, problems, files = {}, sendFile }: Props) {
  const t = useTexts()
  return shownOf(questions, said).map((question) => (
    <Field
      key={question.id}
      question={question}
      values={said[question.id] ?? []}
      onSay={(values) => onSay(question.id, values)}
      problem={translatedProblem(problems[`said.${question.id}`])}
      files={files}
      sendFile={sendFile}
    />
  ))
  function translatedProblem(told: Schemas['Words'] | undefined) {
    return told && translated(t, told)
  }
}

interface FieldProps {
  question: Question
  values: string[]
  onSay: (values: string[]) => void
  problem: string | undefined
  files: Record<string, string>
  sendFile: Props['sendFile']
}

const inputs: Partial<Record<Question['kind'], { type: string; mode?: 'decimal' | 'tel' | 'url' }>> = {
  short: { type: 'text' },
  number: { type: 'text', mode: 'decimal' },
  phone: { type: 'tel', mode: 'tel' },
  web: { type: 'url', mode: 'url' },
  date: { type: 'date' },
}

function Field(props: FieldProps) {
  const { question, values, onSay, problem } = props
  const t = useTexts()
  const { kind, label, help, required } = question
  const common = {
    label,
    hint: help,
    problem,
    value: values[0] ?? '',
    placeholder: required ? undefined : t.optional,
    'aria-required': required || undefined,
  }
  switch (kind) {
    case 'long':
    case 'address':
      return <TextArea {...common} onChange={(event) => onSay([event.target.value])} />
    case 'one':
      return (
        <SelectField {...common} onChange={(event) => onSay(event.target.value ? [event.target.value] : [])}>
          <option value="">{required ? t.chooseOne : t.optional}</option>
          {question.options?.map((option) => (
            <option key={option}>{option}</option>
          ))}
        </SelectField>
      )
    case 'file':
      return <FileField {...props} />
    case 'yes-no':
      return <Marks {...props} options={{ yes: t.yes, no: t.no }} type="radio" />
    case 'several': {
      const options = Object.fromEntries((question.options ?? []).map((option) => [option, option]))
      return <Marks {...props} options={options} type="checkbox" />
    }
    case 'terms':
      return <Tick label={label} help={help} ticked={values.length > 0} onTick={onSay} problem={problem} />
    default:
      return (
        <TextField
          {...common}
          type={inputs[kind]?.type}
          inputMode={inputs[kind]?.mode}
          onChange={(event) => onSay([event.target.value])}
        />
      )
  }
}

const tooLarge = { code: 'file-large', sentence: 'A file has at most 4 MB here. Send a smaller one, or a link to it.' }

/** A file, sent as soon as it is chosen; the form names it from then on. */
function FileField({ question, values, onSay, problem, files, sendFile }: FieldProps) {
  const t = useTexts()
  const id = useId()
  const [gone, setGone] = useState<number | null>(null) // how much of a file that is being sent
  const [wrong, setWrong] = useState('')
  const name = files[values[0] ?? '']
  const note = wrong || problem || question.help
  const choose = async (event: ChangeEvent<HTMLInputElement>) => {
    const chosen = event.target.files?.[0]
    event.target.value = '' // so that the same file can be chosen again
    if (!chosen || !sendFile) return
    setGone(0)
    try {
      const file = await fitting(chosen)
      if (file.size > mostBytes) throw new Refusal(413, tooLarge)
      await sendFile(question.id, file, setGone)
      setWrong('')
    } catch (error) {
      const refused = refusalOf(error)
      setWrong(refused.status === 0 ? t.away : translated(t, refused.toldOf.file ?? refused.told))
    }
    setGone(null)
  }
  return (
    <div>
      <label className="text-note text-ink-2">
        {question.label}
        <input
          type="file"
          accept=".pdf,.png,.jpg,.jpeg,.txt"
          disabled={gone !== null || !sendFile}
          aria-invalid={wrong || problem ? true : undefined}
          aria-describedby={note ? id : undefined}
          className="mt-1 block w-full text-note file:mr-3 file:cursor-pointer file:rounded-(--radius) file:border file:border-act file:bg-transparent file:px-3 file:py-1 file:text-act"
          onChange={choose}
        />
      </label>
      {gone !== null && (
        <p className="mt-1 flex items-center gap-2 text-note text-ink-2">
          <span role="status">{t.sendingFile}</span>
          <progress value={gone} aria-label={t.sendingFile} className="h-1.5 w-32 accent-act" />
        </p>
      )}
      {name && (
        <p className="mt-1 text-note" role="status">
          {name}{' '}
          <button type="button" className="link" onClick={() => onSay([])}>
            {t.removeFile}
          </button>
        </p>
      )}
      {note && (
        <p id={id} className={`mt-1 text-note ${wrong || problem ? 'text-need' : 'text-ink-3'}`}>
          {note}
        </p>
      )}
    </div>
  )
}

/** One or several marks to set. */
function Marks({
  question,
  values,
  onSay,
  problem,
  options,
  type,
}: FieldProps & { options: Record<string, string>; type: 'radio' | 'checkbox' }) {
  const id = useId()
  const note = problem ?? question.help
  const choose = (value: string, on: boolean) => {
    if (type === 'radio') return onSay([value])
    onSay(on ? [...values, value] : values.filter((v) => v !== value))
  }
  return (
    <fieldset aria-describedby={note ? id : undefined}>
      <legend className="text-note text-ink-2">{question.label}</legend>
      <div className="mt-1 flex flex-wrap gap-x-5 gap-y-1">
        {Object.entries(options).map(([value, label]) => (
          <label key={value} className="flex items-center gap-1.5">
            <input
              type={type}
              name={id}
              className="accent-act"
              aria-invalid={problem ? true : undefined}
              checked={values.includes(value)}
              onChange={(event) => choose(value, event.target.checked)}
            />
            {label}
          </label>
        ))}
      </div>
      {note && (
        <p id={id} className={`mt-1 text-note ${problem ? 'text-need' : 'text-ink-3'}`}>
          {note}
        </p>
      )}
    </fieldset>
  )
}

interface TickProps {
  label: string
  help?: string
  ticked: boolean
  onTick: (values: string[]) => void
  problem: string | undefined
}

/** Something that has to be agreed to. */
export function Tick({ label, help, ticked, onTick, problem }: TickProps) {
  const id = useId()
  const note = problem ?? help
  return (
    <div>
      <label className="flex items-baseline gap-2">
        <input
          type="checkbox"
          className="accent-act"
          checked={ticked}
          aria-invalid={problem ? true : undefined}
          aria-describedby={note ? id : undefined}
          onChange={(event) => onTick(event.target.checked ? ['yes'] : [])}
        />
        <span>{label}</span>
      </label>
      {note && (
        <p id={id} className={`mt-1 text-note ${problem ? 'text-need' : 'text-ink-3'}`}>
          {note}
        </p>
      )}
    </div>
  )
}
