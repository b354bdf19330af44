import { availableParallelism } from 'node:os'

/** How many journeys run beside each other, each with a demo and an empty installation of its own. */
export const workers = Number(process.env.WORKERS ?? Math.min(availableParallelism(), 4))

/** Others than the demo's, so that both can run at once. */
function portsFrom(first: number) {
  return { corrim: first, calendar: first + 1, inbox: first + 2, rooms: first + 3, smtp: first + 4, museum: first + 5, phones: first + 6, inbound: first + 7 }
}

export const portsOf = (worker: number) => portsFrom(18080 + 20 * worker)

/** Of a second start, with nothing set up. */
export const emptyPortsOf = (worker: number) => portsFrom(18090 + 20 * worker)

/** Of a demo whose clock is turned. */
export const turnedPortsOf = (worker: number) => portsFrom(18280 + 20 * worker)

/** Which of them the present journey is for. */
export const worker = Number(process.env.TEST_PARALLEL_INDEX ?? 0)

export const ports = portsOf(worker)
export const emptyPorts = emptyPortsOf(worker)
export const turnedPorts = turnedPortsOf(worker)

export const inbox = `http://localhost:${ports.inbox}`
export const rooms = `http://localhost:${ports.rooms}`
export const phones = `http://localhost:${ports.phones}`
export const calendars = `http://localhost:${ports.calendar}`
/** Another site than Corrim's, not only another origin. */
export const museum = `http://127.0.0.1:${ports.museum}`

/** How the program is started with all its stand-ins, at addresses of its own. */
export function startDemo(data: string, at: ReturnType<typeof portsOf>, flags: string[] = []): string[] {
  const addresses = { addr: at.corrim, 'calendar-addr': at.calendar, 'inbox-addr': at.inbox, 'rooms-addr': at.rooms, 'smtp-addr': at.smtp, 'phones-addr': at.phones, 'inbound-addr': at.inbound }
  const named = Object.entries(addresses).flatMap(([name, port]) => [`--${name}`, `localhost:${port}`])
  return ['../bin/corrim', 'demo', ...flags, '--data', `test-results/${data}`, ...named, '--museum-addr', `127.0.0.1:${at.museum}`]
}
