import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { SelectField, TextField } from '../../kit/kit'
import { Copy } from './Copy'

type As = 'inside' | 'button' | 'link'

const ways: Record<As, string> = {
  inside: 'in the page, as tall as it needs',
  button: 'behind a button, over the page',
  link: 'as a page of its own',
}

/** What to put into one's own web page, with how it looks there beside it. */
export function Embed({ sharing }: { sharing: Schemas['Sharing'] }) {
  const [as, setAs] = useState<As>('inside')
  const [words, setWords] = useState('Choose a time')
  const code = codeOf(as, words, sharing)
  const tried = new URLSearchParams({ as, words, path: sharing.path + (sharing.query && `?${sharing.query}`) })
  return (
    <section aria-labelledby="embed-head" className="mt-9 max-w-4xl">
      <h2 id="embed-head">In your own web page</h2>
      <Who sharing={sharing} />
      <div className="mt-3 grid gap-x-6 gap-y-3 sm:grid-cols-2">
        <SelectField label="How it stands there" value={as} onChange={(event) => setAs(event.target.value as As)}>
          {Object.entries(ways).map(([way, said]) => (
            <option key={way} value={way}>
              {said}
            </option>
          ))}
        </SelectField>
        <TextField
          label="Words on the link or button"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
      </div>
      <figure
        aria-label="Code for the page"
        className="mt-3 border border-rule bg-sheet px-3 py-2 font-mono text-small whitespace-pre-wrap wrap-anywhere"
      >
        {code}
      </figure>
      <p className="mt-2">
        <Copy text={{ plain: code }} words="Copy the code" kind="strong" />
      </p>
      <p className="mt-2 max-w-3xl text-note text-ink-2">
        Without scripts it is a plain link. If the site has a Content-Security-Policy, add {sharing.origin} to its
        script-src{as !== 'link' && ' and frame-src'}. Attributes: type, language, colour, answers, via. The page around
        hears corrim-opened, corrim-chosen and corrim-booked.
      </p>
      <h3 className="mt-5">As it looks</h3>
      <iframe
        key={as}
        title="As it looks in a page"
        src={`/embed/try?${tried}`}
        className={`mt-2 w-full border border-rule-strong bg-white ${as === 'link' ? 'h-20' : 'h-140'}`}
      />
    </section>
  )
}

function Who({ sharing: { embed, sites } }: { sharing: Schemas['Sharing'] }) {
  const who = {
    '': 'Any site may show it.',
    nobody: 'No site may show it: others see a link instead.',
    sites: `These sites may show it: ${sites.join(', ')}. Others see a link instead.`,
  }
  return (
    <p className="mt-1 text-note text-ink-2">
      {who[embed ?? '']}{' '}
      <a href="/workspace#embedding" className="underline">
        Change that
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
