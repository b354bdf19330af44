/** Attributes as they are typed: "languages: English, Dutch; region: Benelux". */
export function attributesText(attributes: Record<string, string[]>): string {
  return Object.entries(attributes)
    .map(([name, values]) => `${name}: ${values.join(', ')}`)
    .join('; ')
}

/** What was typed, read back; or the first part of it that says nothing, so that nothing typed is lost in silence. */
export function attributesOf(text: string): { attributes: Record<string, string[]>; unread?: string } {
  const attributes: Record<string, string[]> = {}
  for (const part of text.split(';').filter((one) => one.trim() !== '')) {
    const colon = part.indexOf(':')
    const name = part.slice(0, Math.max(0, colon)).trim()
    const values = part
      .slice(colon + 1)
      .split(',')
      .map((value) => value.trim())
      .filter(Boolean)
    if (name === '' || values.length === 0) return { attributes, unread: part.trim() }
    attributes[name] = [...(attributes[name] ?? []), ...values]
  }
  return { attributes }
}
