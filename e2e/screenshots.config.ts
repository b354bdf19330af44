import config from './playwright.config.ts'

/** Takes the pictures in docs/screenshots from the demo: make screenshots. */
export default { ...config, testMatch: 'screenshots.take.ts' }
