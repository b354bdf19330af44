/** The focus goes to the first field in which something is wrong. */
export function goToFirstFault() {
  document.querySelector<HTMLElement>('main [aria-invalid=true]')?.focus()
}
