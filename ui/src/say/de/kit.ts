import type { Say } from '..'

export const kit: Say['kit'] = {
  nearDays: { heute: 0, morgen: 1, übermorgen: 2, gestern: -1 },
  close: 'Schließen',
  noSuchTimeWrite: 'Diese Uhrzeit gibt es nicht. Schreiben Sie sie etwa so: 9:30 oder 14.',
  noSuchDayWrite: 'Diesen Tag gibt es nicht. Schreiben Sie ihn etwa so: 4. Dez., Freitag oder 2026-12-04.',
  move: (item) => `${item} verschieben`,
  dragArrowKeys: 'Ziehen, oder mit den Pfeiltasten',
  keyEscape: 'Taste Esc',
  quoted: (text) => `„${text}“`,
  yes: 'ja',
  no: 'nein',
}
