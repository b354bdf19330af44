import type { ReactNode } from 'react'

/** The mark of the ruled ribbon. */
export function Sign() {
  return (
    <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true" className="inline-block">
      <path d="M2 20V5h20v15" fill="none" stroke="var(--color-ink)" strokeWidth="1.6" />
      <path d="M7 20v-6M12 20v-9M17 20v-7" stroke="var(--color-act)" strokeWidth="2.4" />
    </svg>
  )
}

/** What stands around every page a client sees. */
export function Frame({ workspace, aside, children }: { workspace: string; aside?: ReactNode; children: ReactNode }) {
  return (
    <>
      <header className="border-b border-rule">
        <div className="mx-auto flex max-w-292 items-center justify-between gap-4 px-5 py-3.5">
          <p className="flex items-center gap-3 font-head text-[18px] whitespace-nowrap">
            <span className="max-sm:hidden">
              <Sign />
            </span>
            {workspace}
          </p>
          {aside}
        </div>
      </header>
      <main className="mx-auto max-w-292 px-5 pt-5 pb-28">{children}</main>
    </>
  )
}
