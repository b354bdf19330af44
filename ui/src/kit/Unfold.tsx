import { type ReactNode, useState } from 'react'
import { Button } from './kit'

interface Props {
  words: string
  /** It stays open as long as there is something in it to be mended. */
  wrong?: boolean
  children: ReactNode
}

/** What few need: it is there once its words are pressed. */
export function Unfold({ words, wrong = false, children }: Props) {
  const [open, setOpen] = useState(false)
  return (
    <div className="mt-1">
      <Button kind="text" className="-ml-1 text-note" aria-expanded={open || wrong} onClick={() => setOpen(!open)}>
        {words}
      </Button>
      {(open || wrong) && children}
    </div>
  )
}
