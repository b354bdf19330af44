import type { Schemas } from '../../api/client'
import { fileOf, type Shared } from './sharing'

interface Props {
  shared: Shared
  sharing: Schemas['Sharing']
  language: string
}

const sizes = { a4: 'A4', a6: 'A6', card: 'card, 85 × 55 mm' }

/** The address as a code, to be saved or printed. */
export function Printed({ shared, sharing: { address, query, name }, language }: Props) {
  const svg = fileOf('code.svg', shared, query)
  return (
    <section aria-labelledby="code-head">
      <h2 id="code-head">On paper</h2>
      <img src={svg} alt={`QR code of ${address}`} className="mt-3 w-52 bg-white" />
      <p className="mt-2 wrap-anywhere text-note text-ink-2">{address}</p>
      <p className="mt-3 flex flex-wrap gap-x-5 text-note">
        <a href={svg} download={`${name}.svg`}>
          Save as SVG
        </a>
        <a href={fileOf('code.png', shared, query, { pixels: '20' })} download={`${name}.png`}>
          Save as PNG
        </a>
      </p>
      <h3 className="mt-6">A sheet to print</h3>
      <p className="mt-1 text-note text-ink-2">With the name, the code and the address in your colour.</p>
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
