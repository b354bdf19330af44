import { useEffect, useState } from 'react'
import { Button } from '../../kit/kit'
import { say } from '../../say'

interface Text {
  plain: string
  /** The same for programs that take HTML, like mail programs. */
  html?: string
}

/** Puts a text where it can be pasted from. Pages without https have no clipboard: there it is copied as a selection is. */
async function copy({ plain, html }: Text): Promise<void> {
  if (!navigator.clipboard) return copySelected({ plain, html: html ?? '' })
  if (!html) return navigator.clipboard.writeText(plain)
  const as = (kind: string, text: string) => ({ [kind]: new Blob([text], { type: kind }) })
  await navigator.clipboard.write([new ClipboardItem({ ...as('text/plain', plain), ...as('text/html', html) })])
}

function copySelected({ plain, html }: Required<Text>): void {
  const take = (event: ClipboardEvent) => {
    event.preventDefault()
    event.clipboardData?.setData('text/plain', plain)
    if (html) event.clipboardData?.setData('text/html', html)
  }
  document.addEventListener('copy', take, { once: true })
  document.execCommand('copy')
}

interface Props {
  text: Text
  words: string
  kind?: 'strong' | 'plain' | 'text'
  disabled?: boolean
}

const saidFor = 3000 // milliseconds

export function Copy({ text, words, kind = 'plain', disabled = false }: Props) {
  const [said, setSaid] = useState('')
  useEffect(() => {
    if (!said) return
    const timer = setTimeout(() => setSaid(''), saidFor)
    return () => clearTimeout(timer)
  }, [said])
  return (
    <span className="inline-flex items-baseline gap-3">
      <Button
        kind={kind}
        className={kind === 'text' ? 'text-note' : ''}
        disabled={disabled}
        onClick={() =>
          copy(text).then(
            () => setSaid(say.share.copied),
            () => setSaid(say.share.notCopiedBrowserRefused),
          )
        }
      >
        {words}
      </Button>
      <span role="status" className="text-note text-ink-2">
        {said}
      </span>
    </span>
  )
}
