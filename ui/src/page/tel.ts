/** The address that calls a number as it was typed (RFC 3966); what follows it, like an extension in words, is left out. */
export function telOf(number: string): string {
  const [dialled = ''] = /[+\d][\d ()./-]*/.exec(number) ?? []
  return `tel:${dialled.replace(/[^+\d]/g, '')}`
}
