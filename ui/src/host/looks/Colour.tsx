import type { Schemas } from '../../api/client'
import { TextField } from '../../kit/kit'
import { say } from '../../say'

interface Props {
  label: string
  /** What counts while no colour is given. */
  none: string
  colour: string
  /** That colour. */
  usual?: string | undefined
  /** As pages paint with it on light ground. */
  tones: Schemas['Tones'] | undefined
  problem: string | undefined
  onChange: (colour: string) => void
}

/** The colour as it is wished, and, where it could not be read, as it has to be. */
export function Colour({ label, none, usual = '#0b5a5e', colour, tones, problem, onChange }: Props) {
  return (
    <div>
      <div className="flex items-end gap-4">
        <div className="flex-1">
          <TextField
            label={label}
            placeholder={none}
            value={colour}
            problem={problem}
            onChange={(event) => onChange(event.target.value)}
          />
        </div>
        <input
          type="color"
          aria-label={say.looks.chooseColour}
          className="h-9 w-12 cursor-pointer border-0 bg-transparent p-0"
          value={/^#[0-9a-f]{6}$/i.test(colour) ? colour : usual}
          onChange={(event) => onChange(event.target.value)}
        />
      </div>
      {colour && tones?.moved && (
        <p className="mt-2 border-l-3 border-need pl-3 text-note">
          {say.looks.cantReadOurGround(<Swatch colour={colour} />, <Swatch colour={tones.act} />)}
        </p>
      )}
    </div>
  )
}

function Swatch({ colour }: { colour: string }) {
  return (
    <span className="figures whitespace-nowrap">
      <svg width="14" height="14" aria-hidden="true" className="mr-1 inline-block align-[-2px]">
        <rect width="14" height="14" fill={colour} stroke="var(--color-rule-strong)" />
      </svg>
      {colour}
    </span>
  )
}
