import { count } from '../count'

export const ribbon = {
  blocksNothing: (whereItLives: string) => `${whereItLives}, blocks nothing`,
  busyTitle: 'Busy',
  lives: (times: string, calendar: string) => `${times}, lives in ${calendar}`,
  to: (from: string, to: string) => `${from} to ${to}`,
  open: (times: string) => `open ${times}`,
  closed: 'closed',
  busy: (times: string) => `busy ${times}`,
  shownOnly: (times: string) => `shown only ${times}`,
  booked: (times: string, label: string) => `booked ${times} ${label}`,
  openStart: (starts: number) => count(starts, 'open start', 'open starts'),
  gained: (gained: number) => `${gained} gained`,
  lost: (lost: number) => `${lost} lost`,
  zoomShowsLessLarger: 'Zoom: + shows less and larger, − more, 0 the working day',
  dragZoomPressTwice: 'Drag to zoom, press twice for the working day',
  openHoursDragDraw: (name: string) => `${name}, open hours. Drag to draw; the text beside it does the same.`,
  arrowKeysMoveShift: (name: string, start: string, end: string) =>
    `${name} ${start} to ${end}. Arrow keys move it, with Shift its end, with Alt its start; Delete closes it, x takes an hour out.`,
}
