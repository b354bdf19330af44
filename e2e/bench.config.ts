import config from './playwright.config.ts'

// Figures taken in a browser, printed and never asserted.
// Traces would slow the browser down.
export default { ...config, workers: 1, testMatch: '*.bench.ts', reporter: [['line']], use: { ...config.use, trace: 'off' } }
