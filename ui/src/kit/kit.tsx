import type {
  ButtonHTMLAttributes,
  InputHTMLAttributes,
  ReactNode,
  SelectHTMLAttributes,
  TextareaHTMLAttributes,
} from 'react'
import { useId } from 'react'

type ButtonProps = ButtonHTMLAttributes<HTMLButtonElement> & { kind?: 'strong' | 'plain' | 'text' }

const looks = {
  strong: 'bg-act text-on-act border-act px-4 py-2',
  plain: 'text-act border-act px-4 py-2 bg-transparent',
  text: 'text-act border-transparent px-1 py-0.5 bg-transparent font-normal! hover:underline underline-offset-3',
}

export function Button({ kind = 'strong', className = '', ...props }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-block shrink-0 rounded-(--radius) border font-semibold leading-snug whitespace-nowrap ${looks[kind]} ${className}`}
      {...props}
    />
  )
}

const line = 'w-full border-0 border-b bg-sheet px-0.5 py-1 text-ink placeholder:text-ink-3'

/** Whether a field has a problem shows as a line in the colour that asks for somebody, and in words. */
export function lineLook(problem?: string): string {
  return `${line} ${problem ? 'border-need' : 'border-ink-2'}`
}

/** A field that is a word of a sentence. */
export const inline = 'max-w-full border-0 border-b border-ink-2 bg-ground px-0.5 py-0.5 text-base text-ink'

/** The whole number that was typed; 0 while there is none. */
export function whole(text: string): number {
  return Math.max(0, Math.round(Number(text)) || 0)
}

interface FieldProps {
  label: string
  problem?: string | undefined
  hint?: ReactNode
  /** What is wrong is read out as soon as it is there. */
  spoken?: boolean
}

function useField({ problem, hint, spoken }: Omit<FieldProps, 'label'>) {
  const id = useId()
  const noteId = `${id}-note`
  const described = problem || hint ? noteId : undefined
  const note = problem ? (
    <p id={noteId} role={spoken ? 'alert' : undefined} className="mt-1 text-note text-need">
      {problem}
    </p>
  ) : hint ? (
    <p id={noteId} className="mt-1 text-note text-ink-3">
      {hint}
    </p>
  ) : null
  return { id, note, aria: { id, 'aria-invalid': problem ? true : undefined, 'aria-describedby': described } }
}

export function TextField({
  label,
  problem,
  hint,
  spoken,
  ...props
}: FieldProps & InputHTMLAttributes<HTMLInputElement>) {
  const field = useField({ problem, hint, spoken })
  return (
    <div>
      <label htmlFor={field.id} className="block text-note text-ink-2">
        {label}
      </label>
      <input className={lineLook(problem)} {...field.aria} {...props} />
      {field.note}
    </div>
  )
}

export function TextArea({ label, problem, hint, ...props }: FieldProps & TextareaHTMLAttributes<HTMLTextAreaElement>) {
  const field = useField({ problem, hint })
  return (
    <div>
      <label htmlFor={field.id} className="block text-note text-ink-2">
        {label}
      </label>
      <textarea className={lineLook(problem)} rows={3} {...field.aria} {...props} />
      {field.note}
    </div>
  )
}

/** One of a list, chosen; its options are the children. */
export function SelectField({
  label,
  problem,
  hint,
  children,
  ...props
}: FieldProps & SelectHTMLAttributes<HTMLSelectElement>) {
  const field = useField({ problem, hint })
  return (
    <div>
      <label htmlFor={field.id} className="block text-note text-ink-2">
        {label}
      </label>
      <select className={lineLook(problem)} {...field.aria} {...props}>
        {children}
      </select>
      {field.note}
    </div>
  )
}

/** Something that needs the person. */
export function Need({ title, children, className = '' }: { title?: string; children: ReactNode; className?: string }) {
  return (
    <div role="alert" className={`border-t-3 border-need pt-2 text-note ${className}`}>
      {title && <p className="text-base font-semibold text-need">{title}</p>}
      {children}
    </div>
  )
}
