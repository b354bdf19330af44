import type { Say } from '..'
import { count } from '../count'

export const edit: Say['edit'] = {
  notSavedYet: 'Noch nicht gespeichert',
  saveChanges: 'Änderungen speichern',
  discardChanges: 'Änderungen verwerfen',
  changeNotSaved: (changes) => `${count(changes, 'Änderung', 'Änderungen')} nicht gespeichert`,
  mendBeforeSaving: (faults) => `${count(faults, 'Angabe', 'Angaben')} vor dem Speichern zu berichtigen`,
  somebodyElseHasChanged: (fields) =>
    `Jemand anders hat das inzwischen geändert. Was Sie nicht angefasst hatten, steht nun so da wie dort; was Sie beide geändert haben (${fields}), steht hier in Ihrer Fassung. Beim Speichern ersetzt sie die andere.`,
  discardMineTakeTheirs: 'Meine Fassung verwerfen, die andere übernehmen',
  saveBeforeYouLeave: 'Vor dem Verlassen speichern?',
  saveLeave: 'Speichern und verlassen',
  stay: 'Hier bleiben',
  whatYouChangedHere: 'Was Sie hier geändert haben, ist noch nicht gespeichert.',
  goToFirst: (faults) => (faults === 1 ? 'Dorthin' : 'Zur ersten'),
}
