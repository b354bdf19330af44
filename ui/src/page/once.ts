import { options } from 'preact'

/** What stands in for React, for asking the server and for reading a calendar, where a page is drawn only once (first.config.ts). */
export * from 'preact'
export * from 'preact/hooks'
export default () => ({})
export const busyInBackground = () => Promise.resolve([])

// Nothing is to happen after the drawing: what effects would do, the living page does.
options.requestAnimationFrame = () => {}
