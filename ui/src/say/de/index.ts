import type { Say } from '..'
export const de = {} as Say
