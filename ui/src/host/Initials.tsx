/** Somebody's initials, for the eye only: their name has to stand beside it. */
export function Initials({ name }: { name: string }) {
  const words = name.split(' ')
  const letters = `${words[0]?.[0] ?? ''}${words.length > 1 ? (words.at(-1)?.[0] ?? '') : ''}`
  return (
    <span
      aria-hidden="true"
      title={name}
      className="grid size-8 shrink-0 place-items-center self-center rounded-full bg-act-soft text-note font-semibold text-act"
    >
      {letters}
    </span>
  )
}

/** Several people by their initials; the others are counted. */
export function Faces({ people, most }: { people: { id: number; name: string }[]; most: number }) {
  return (
    <span className="flex items-center gap-1">
      {people.slice(0, most).map(({ id, name }) => (
        <span key={id}>
          <Initials name={name} />
          <span className="sr-only">{name}</span>
        </span>
      ))}
      {people.length > most && <span className="text-note whitespace-nowrap text-ink-2">+ {people.length - most}</span>}
    </span>
  )
}
