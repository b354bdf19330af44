import config from './playwright.config.ts'

const servers = [config.webServer ?? []].flat().slice(0, 2) // of one worker

// Figures taken in a browser, printed and never asserted. Traces would slow it down.
export default { ...config, workers: 1, webServer: servers, testMatch: '*.bench.ts', reporter: [['line']], use: { ...config.use, trace: 'off' } }
