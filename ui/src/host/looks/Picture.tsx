import { useMutation } from '@tanstack/react-query'
import type { ChangeEvent } from 'react'
import { inBase64 } from '../../api/base64'
import { api, need, type Refusal, type Schemas } from '../../api/client'
import { Need } from '../../kit/kit'
import { say } from '../../say'

/** A picture to choose; it is kept at once, and named by its hash from then on. */
export function Picture({ label, hash, onChange }: { label: string; hash: string; onChange: (hash: string) => void }) {
  const keep = useMutation<Schemas['Picture'], Refusal, File>({
    mutationFn: async (file) => need(api.POST('/workspace/pictures', { body: { data: await inBase64(file) } })),
    onSuccess: (picture) => onChange(picture.hash),
  })
  const choose = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0]
    if (file) keep.mutate(file)
    event.target.value = ''
  }
  return (
    <div>
      <p className="text-note text-ink-2">{label}</p>
      {hash && <img src={`/i/${hash}`} alt={say.looks.asItIs(label)} className="my-1 max-h-16 max-w-60" />}
      <p className="flex gap-4">
        <label className="link focus-within:outline-2 focus-within:outline-act">
          {hash ? say.looks.chooseAnother : say.looks.choosePngJpeg}
          <input
            type="file"
            accept="image/png,image/jpeg"
            aria-label={say.looks.pngJpeg(label)}
            className="sr-only"
            onChange={choose}
          />
        </label>
        {hash && (
          <button type="button" className="link" onClick={() => onChange('')}>
            {say.looks.remove}
          </button>
        )}
      </p>
      {keep.error && <Need className="mt-1">{keep.error.fields.picture ?? keep.error.message}</Need>}
    </div>
  )
}
