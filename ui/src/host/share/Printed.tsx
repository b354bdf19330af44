import type { Schemas } from '../../api/client'
import { say } from '../../say'
import { fileOf, type Shared } from './sharing'

interface Props {
  shared: Shared
  sharing: Schemas['Sharing']
  language: string
}

const sizes = { a4: 'A4', a6: 'A6', card: say.share.card8555Mm }

/** The address as a code, to be saved or printed. */
export function Printed({ shared, sharing: { address, query, name }, language }: Props) {
  const svg = fileOf('code.svg', shared, query)
  return (
    <section aria-labelledby="code-head">
      <h2 id="code-head">{say.share.paper}</h2>
      <img src={svg} alt={say.share.qrCode(address)} className="mt-3 w-52 bg-white" />
      <p className="mt-2 wrap-anywhere text-note text-ink-2">{address}</p>
      <p className="mt-3 flex flex-wrap gap-x-5 text-note">
        <a href={svg} download={`${name}.svg`}>
          {say.share.saveSvg}
        </a>
        <a href={fileOf('code.png', shared, query, { pixels: '20' })} download={`${name}.png`}>
          {say.share.savePng}
        </a>
      </p>
      <h3 className="mt-6">{say.share.sheetPrint}</h3>
      <p className="mt-1 text-note text-ink-2">{say.share.nameCodeAddressYour}</p>
      <ul className="mt-2 flex flex-wrap gap-x-5 text-note">
        {Object.entries(sizes).map(([size, words]) => (
          <li key={size}>
            <a href={fileOf('sheet', shared, query, { size, language })} target="_blank" rel="noreferrer">
              {words}
            </a>
          </li>
        ))}
      </ul>
    </section>
  )
}
