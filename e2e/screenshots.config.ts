import config from './playwright.config.ts'

const servers = [config.webServer ?? []].flat().slice(0, 2) // of one worker

/** Takes the pictures in docs/screenshots from the demo: make screenshots. */
export default { ...config, workers: 1, webServer: servers, testMatch: 'screenshots.take.ts' }
