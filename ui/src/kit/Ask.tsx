import { Dialog } from 'radix-ui'
import type { ReactNode } from 'react'
import { say } from '../say'
import { Button } from './kit'

interface AskProps {
  open: boolean
  title: string
  children: ReactNode
  yes: string
  no: string
  /** While what was answered is being done: it is not done twice. */
  busy?: boolean
  /** A second way on. */
  also?: { words: string; onDo: () => void }
  onYes: () => void
  onNo: () => void
  /** Once it is gone; may keep the focus from going back to where it was. */
  onClosed?: (event: Event) => void
}

const panel =
  'fixed top-1/2 left-1/2 max-h-[94vh] -translate-x-1/2 -translate-y-1/2 overflow-y-auto border-t-3 border-act bg-sheet p-6 text-ink outline outline-rule-strong'

const narrow = 'w-[min(26rem,92vw)]'

/** Something to do or to leave, over the page. */
export function Sheet(props: {
  open: boolean
  title: string
  wide?: boolean
  children: ReactNode
  onClose: () => void
}) {
  return (
    <Dialog.Root open={props.open} onOpenChange={(open) => !open && props.onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ground/80" />
        <Dialog.Content
          className={`${panel} ${props.wide ? 'w-[min(46rem,94vw)]' : narrow}`}
          aria-describedby={undefined}
        >
          <Dialog.Title className="mb-2 font-head text-[19px]">{props.title}</Dialog.Title>
          {props.children}
          <Dialog.Close className="link mt-4 text-note">{say.kit.close}</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

/** One thing's whole story, over the right side of the view, which stays in reach. */
export function Side(props: { title: string; above?: ReactNode; children: ReactNode; onClose: () => void }) {
  return (
    <Dialog.Root open modal={false} onOpenChange={(open) => !open && props.onClose()}>
      <Dialog.Portal>
        <Dialog.Content
          className="fixed inset-y-0 right-0 z-10 w-[min(27.4rem,100vw)] overflow-y-auto border-t-3 border-l border-act border-l-rule-strong bg-sheet p-6 text-ink"
          aria-describedby={undefined}
          onInteractOutside={(event) => event.preventDefault()}
        >
          <Dialog.Close className="link float-right ml-3 text-note" title={say.kit.keyEscape}>
            {say.kit.close}
          </Dialog.Close>
          {props.above && <p className="text-note text-ink-2">{props.above}</p>}
          <Dialog.Title className="font-head text-[26px] leading-tight wrap-anywhere">{props.title}</Dialog.Title>
          {props.children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}

/** A question that has to be answered before going on. */
export function Ask(props: AskProps) {
  return (
    <Dialog.Root open={props.open} onOpenChange={(open) => !open && props.onNo()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 bg-ground/80" />
        <Dialog.Content
          className={`${panel} ${narrow}`}
          {...(props.onClosed ? { onCloseAutoFocus: props.onClosed } : {})}
        >
          <Dialog.Title className="font-head text-[19px]">{props.title}</Dialog.Title>
          <Dialog.Description className="mt-1 mb-4 text-ink-2">{props.children}</Dialog.Description>
          <div className="flex flex-wrap gap-2">
            <Button disabled={props.busy} onClick={props.onYes}>
              {props.yes}
            </Button>
            {props.also && (
              <Button kind="plain" onClick={props.also.onDo}>
                {props.also.words}
              </Button>
            )}
            <Button kind="plain" onClick={props.onNo}>
              {props.no}
            </Button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  )
}
