import type { Say } from '..'
import { count } from '../count'

export const ribbon: Say['ribbon'] = {
  blocksNothing: (whereItLives) => `${whereItLives}, blockiert nichts`,
  busyTitle: 'Belegt',
  lives: (times, calendar) => `${times}, steht in ${calendar}`,
  to: (from, to) => `${from} bis ${to}`,
  open: (times) => `offen ${times}`,
  closed: 'geschlossen',
  busy: (times) => `belegt ${times}`,
  shownOnly: (times) => `nur angezeigt ${times}`,
  booked: (times, label) => `gebucht ${times} ${label}`,
  openStart: (starts) => count(starts, 'freie Startzeit', 'freie Startzeiten'),
  gained: (gained) => `${gained} dazu`,
  lost: (lost) => `${lost} weniger`,
  zoomShowsLessLarger: 'Zoom: + zeigt weniger und größer, − mehr, 0 den Arbeitstag',
  dragZoomPressTwice: 'Ziehen zum Zoomen, zweimal drücken für den Arbeitstag',
  openHoursDragDraw: (name) => `${name}, offene Zeiten. Ziehen zum Zeichnen; der Text daneben tut dasselbe.`,
  arrowKeysMoveShift: (name, start, end) =>
    `${name} ${start} bis ${end}. Pfeiltasten verschieben es, mit Umschalt das Ende, mit Alt den Anfang; Entf schließt es, x nimmt eine Stunde heraus.`,
}
