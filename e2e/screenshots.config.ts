import config from './playwright.config.ts'

/** Takes the pictures in docs/screenshots from the demo: make screenshots. */
export default { ...config, workers: 1, testMatch: 'screenshots.take.ts' }
