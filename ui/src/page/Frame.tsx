import { createContext, type ReactNode, useContext } from 'react'
import { embedded } from './embedded'
import { useLooks } from './looks'
import { type Language, languages, useTexts } from './texts'

/** The mark of the ruled ribbon. */
export function Sign() {
  return (
    <svg viewBox="0 0 24 24" width="24" height="24" aria-hidden="true" className="inline-block">
      <path d="M2 20V5h20v15" fill="none" className="stroke-ink stroke-[1.6]" />
      <path d="M7 20v-6M12 20v-9M17 20v-7" className="stroke-act stroke-[2.4]" />
    </svg>
  )
}

/** The page's language, and how to change it. */
export const Speaking = createContext<{ language: Language; onChange: (language: Language) => void }>({
  language: 'en',
  onChange: () => {},
})

interface Props {
  workspace: string
  /** Of the workspace's page. */
  home?: string | undefined
  aside?: ReactNode
  children: ReactNode
}

/** What stands around every page a client sees. */
export function Frame({ workspace, home, aside, children }: Props) {
  const { logo, banner, short } = useLooks()
  const name = short ? (
    <>
      <span className="sm:hidden">{short}</span>
      <span className="max-sm:hidden">{workspace}</span>
    </>
  ) : (
    workspace
  )
  if (embedded) return <Inside aside={aside}>{children}</Inside>
  return (
    <>
      <header className="border-b border-rule">
        <div className="mx-auto flex max-w-292 items-center justify-between gap-4 px-5 py-3.5">
          <p className="flex min-w-0 items-center gap-3 font-head text-[18px] leading-tight sm:whitespace-nowrap">
            {logo ? (
              <img src={logo} alt="" className="h-8 max-w-40 shrink-0 object-contain max-sm:max-w-16" />
            ) : (
              <span className="max-sm:hidden">
                <Sign />
              </span>
            )}
            {home ? (
              <a href={home} className="text-ink! no-underline! hover:underline!">
                {name}
              </a>
            ) : (
              name
            )}
          </p>
          {aside}
        </div>
      </header>
      {banner && <img src={banner} alt="" className="h-28 w-full object-cover sm:h-40" />}
      <main className="mx-auto max-w-292 px-5 pt-5 pb-10">{children}</main>
      <footer className="mx-auto max-w-292 px-5 pb-24 text-note text-ink-3">
        <Languages />
      </footer>
    </>
  )
}

/** Inside others' pages, the name of the workspace stands around already. */
function Inside({ aside, children }: { aside: ReactNode; children: ReactNode }) {
  return (
    <>
      {aside && <div className="flex justify-end px-5 pt-3">{aside}</div>}
      <main className="px-5 pt-3 pb-6">{children}</main>
      <footer className="px-5 pb-5 text-note text-ink-3">
        <Languages />
      </footer>
    </>
  )
}

function Languages() {
  const { language, onChange } = useContext(Speaking)
  const t = useTexts()
  return (
    <label>
      {t.chooseLanguage}{' '}
      <select
        className="cursor-pointer border-0 border-b border-dotted border-act bg-ground text-act"
        value={language}
        onChange={(event) => onChange(event.target.value as Language)}
      >
        {Object.entries(languages).map(([code, name]) => (
          <option key={code} value={code} lang={code}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
}
