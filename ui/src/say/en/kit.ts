export const kit = {
  close: 'Close',
  noSuchTimeWrite: 'No such time. Write it like 9:30, 14 or 2 pm.',
  noSuchDayWrite: 'No such day. Write it like 4 Dec, Friday or 2026-12-04.',
  move: (item: string) => `Move ${item}`,
  dragArrowKeys: 'Drag, or arrow keys',
  nearDays: { today: 0, tomorrow: 1, yesterday: -1 } as Record<string, number>,
  keyEscape: 'Key Escape',
  quoted: (text: string) => `“${text}”`,
  yes: 'yes',
  no: 'no',
}
