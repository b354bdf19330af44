/** Others than the demo's, so that both can run at once. */
export const ports = { corrim: 18080, calendar: 18081, inbox: 18082, rooms: 18083, smtp: 18025 }

/** Of a second start, with nothing set up. */
export const emptyPorts = { corrim: 18090, calendar: 18091, inbox: 18092, rooms: 18093, smtp: 18035 }

export const inbox = `http://localhost:${ports.inbox}`
export const rooms = `http://localhost:${ports.rooms}`
export const calendars = `http://localhost:${ports.calendar}`
