import { DropdownMenu } from 'radix-ui'

export interface Entry {
  words: string
  onDo?: () => void
  /** An address instead, opened in a page of its own. */
  href?: string
}

/** What else can be done with something, behind three dots. */
export function Menu({ label, entries }: { label: string; entries: Entry[] }) {
  const look =
    'block w-full cursor-pointer px-4 py-1.5 text-left text-base text-ink no-underline! outline-none data-[highlighted]:bg-act-soft data-[highlighted]:text-act'
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger aria-label={label} title={label} className="rounded-(--radius) px-2 py-1.5 text-act">
        <svg viewBox="0 0 18 4" width="18" height="4" aria-hidden="true">
          <path d="M2 2h0M9 2h0M16 2h0" stroke="currentColor" strokeWidth="3" strokeLinecap="round" />
        </svg>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          aria-label={label}
          className="z-10 min-w-44 border-t-3 border-act bg-sheet py-1.5 outline outline-rule-strong"
        >
          {entries.map(({ words, onDo, href }) =>
            href ? (
              <DropdownMenu.Item key={words} asChild>
                <a href={href} target="_blank" rel="noreferrer" className={look}>
                  {words}
                </a>
              </DropdownMenu.Item>
            ) : (
              <DropdownMenu.Item key={words} className={look} onSelect={() => onDo?.()}>
                {words}
              </DropdownMenu.Item>
            ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  )
}
