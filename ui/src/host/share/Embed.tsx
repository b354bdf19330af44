import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { SelectField, TextField } from '../../kit/kit'
import { say } from '../../say'
import { Copy } from './Copy'

type As = 'inside' | 'button' | 'link'

const ways: Record<As, string> = {
  inside: say.share.pageTallNeeds,
  button: say.share.behindButtonOverPage,
  link: say.share.pageOwn,
}

/** What to put into one's own web page, with how it looks there beside it. */
export function Embed({ sharing }: { sharing: Schemas['Sharing'] }) {
  const [as, setAs] = useState<As>('inside')
  const [words, setWords] = useState(say.share.chooseTime)
  const code = codeOf(as, words, sharing)
  const tried = new URLSearchParams({ as, words, path: sharing.path + (sharing.query && `?${sharing.query}`) })
  return (
    <section aria-labelledby="embed-head" className="mt-9 max-w-4xl">
      <h2 id="embed-head">{say.share.yourOwnWebPage}</h2>
      <Who sharing={sharing} />
      <div className="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <SelectField label={say.share.howStandsThere} value={as} onChange={(event) => setAs(event.target.value as As)}>
          {Object.entries(ways).map(([way, said]) => (
            <option key={way} value={way}>
              {said}
            </option>
          ))}
        </SelectField>
        <TextField label={say.share.wordsLinkButton} value={words} onChange={(event) => setWords(event.target.value)} />
      </div>
      <figure
        aria-label={say.share.codePage}
        className="mt-3 border border-rule bg-sheet px-3 py-2 font-mono text-small whitespace-pre-wrap wrap-anywhere"
      >
        {code}
      </figure>
      <p className="mt-2">
        <Copy text={{ plain: code }} words={say.share.copyCode} kind="strong" />
      </p>
      <p className="mt-2 max-w-3xl text-note text-ink-2">
        {say.share.withoutScriptsPlainLink(sharing.origin, as !== 'link')}
      </p>
      <h3 className="mt-5">{say.share.looks}</h3>
      <iframe
        key={as}
        title={say.share.looksPage}
        src={`/embed/try?${tried}`}
        className={`mt-2 w-full border border-rule-strong bg-white ${as === 'link' ? 'h-20' : 'h-140'}`}
      />
    </section>
  )
}

function Who({ sharing: { embed, sites } }: { sharing: Schemas['Sharing'] }) {
  const who = {
    '': say.share.anySiteMayShow,
    nobody: say.share.noSiteMayShow,
    sites: say.share.theseSitesMayShow(sites.join(', ')),
  }
  return (
    <p className="mt-1 text-note text-ink-2">
      {who[embed ?? '']}{' '}
      <a href="/workspace#embedding" className="underline">
        {say.share.changeThat}
      </a>
    </p>
  )
}

/** What stands in the page: a link that the script makes more of. */
function codeOf(as: As, words: string, { address, origin }: Schemas['Sharing']): string {
  const plain = (text: string) =>
    text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;')
  const link = `<a href="${plain(address)}">${plain(words)}</a>`
  if (as === 'link') return link
  return `<corrim-page as="${as}">${link}</corrim-page>\n<script src="${origin}/embed.js" async></script>`
}
