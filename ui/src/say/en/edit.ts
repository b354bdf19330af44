import { count } from '../count'

export const edit = {
  notSavedYet: 'Not saved yet',
  saveChanges: 'Save changes',
  discardChanges: 'Discard changes',
  changeNotSaved: (changes: number) => `${count(changes, 'change', 'changes')} not saved`,
  mendBeforeSaving: (faults: number) => `${faults} to mend before saving`,
  somebodyElseHasChanged: (fields: string) =>
    `Somebody else has changed this meanwhile. What you had not touched is theirs now; of what you both changed (${fields}), yours stands here. Saving puts it over theirs.`,
  discardMineTakeTheirs: 'Discard mine, take theirs',
  saveBeforeYouLeave: 'Save before you leave?',
  saveLeave: 'Save and leave',
  stay: 'Stay',
  whatYouChangedHere: 'What you changed here is not saved yet.',
  goToFirst: (faults: number) => (faults === 1 ? 'Go to it' : 'Go to the first'),
}
