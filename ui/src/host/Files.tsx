import type { Schemas } from '../api/client'
import { say } from '../say'

/** Files that a client sent, to be saved. */
export function Files({ files }: { files: Schemas['AttachedFile'][] | undefined }) {
  if (!files?.length) return null
  return (
    <p className="text-note">
      {files.map(({ id, name, size }) => (
        <a key={id} href={`/api/files/${id}`} download={name} className="mr-4">
          {say.shell.kb(name, Math.ceil(size / 1024))}
        </a>
      ))}
    </p>
  )
}
