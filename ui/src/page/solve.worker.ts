import { solve } from './solve'

self.onmessage = ({ data }) => self.postMessage(solve(data))
