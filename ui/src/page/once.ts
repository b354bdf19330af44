import { options } from 'preact'

/** What stands in for React, and for asking the server, where a page is drawn only once (first.config.ts). */
export * from 'preact'
export * from 'preact/hooks'
export default () => ({})

// Nothing is to happen after the drawing: what effects would do, the living page does.
options.requestAnimationFrame = () => {}
