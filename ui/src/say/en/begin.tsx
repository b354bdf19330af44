import type { ReactNode } from 'react'

export const begin = {
  corrim: (sign: ReactNode) => <>{sign} Corrim</>,
  setUpYourWorkspace: 'Set up your workspace',
  fewMinutesFromHere:
    'A few minutes from here, clients can book you. Nothing is published before you say so, and you can leave at any step and go on later.',
  whatClientsCallYou: 'What clients call you',
  yourPageWillP: (host: string, slug: string) => `Your page will be ${host}/p/${slug}`,
  shortNameAddresses: 'Short name, as in addresses',
  yourOwnName: 'Your own name',
  yourTimeZone: 'Your time zone',
  yourMailAddress: 'Your mail address',
  least12CharactersFew: 'At least 12 characters. A few words are easy to remember.',
  aPassword: 'A password',
  standsWhereProgramWas: 'It stands where the program was started, with the address to open.',
  codeInstallation: 'Code of this installation',
  makeWorkspace: 'Make the workspace',
  whenYouWork: 'When you work',
  yourFirstMeetingType: 'Your first meeting type',
  yourColleagues: 'Your colleagues',
  yourPage: 'Your page',
  settingUp: 'Setting up',
  stepOf: (shown: number, names: number) => `step ${shown} of ${names}`,
  continueLater: 'Continue later',
  steps: 'Steps',
  typeHoursLikeDraw: (strong: ReactNode) => (
    <>
      Type hours like {strong}, or draw them on the ribbons. Exceptions, holidays and your calendars come later, under
      Hours and Calendars.
    </>
  ),
  theseMyHours: 'These are my hours',
  videoFreshRoomEach: 'by video, a fresh room for each',
  phoneWeCallClient: 'by phone; we call the client',
  clientsAddress: 'at the client’s address',
  agreedLater: 'agreed later',
  firstConversation: 'First conversation',
  youOffer: (types: string) => `You offer ${types}.`,
  continueColleagues: 'Continue to colleagues',
  whatClientsCanBook: 'What clients can book. At the right: when they could, as your hours stand.',
  whatCalled: 'What it is called',
  howLongLastsMinutes: 'How long it lasts, in minutes',
  howYouMeet: 'How you meet',
  offer: 'Offer this',
  whoeverWorksYouGets:
    'Whoever works with you gets a mail, chooses a password and has hours and calendars of their own. Alone is fine too.',
  invitationNotSentYet: (typed: string) =>
    `The invitation of ${typed} is not sent yet. It waits here, and under People.`,
  continueYourPage: 'Continue to your page',
  continueWithoutColleagues: 'Continue without colleagues',
  anyoneWhoHasLink: 'anyone who has the link',
  peopleWorkspaceWhoSigned: 'people of the workspace who are signed in',
  nobodyWeEnterBookings: 'nobody; we enter bookings ourselves',
  whatBecomesVisible: 'What becomes visible',
  pageAt: (host: string) => `the page ${host}`,
  withName: (path: string, workspace: ReactNode) => (
    <>
      {path}, with the name “{workspace}”
    </>
  ),
  typeAt: (type: string, duration: number, host: string) => `“${type}”, ${duration} minutes, at ${host}`,
  yourNameTimesWhich: (path: string, me: ReactNode) => (
    <>
      {path}, with your name, {me}, and the times at which you are open
    </>
  ),
  theyCantBookedThere: '; they can’t be booked there',
  nobodySeesYourMail:
    'Nobody sees your mail address, your week, or anything of your calendars. Until you publish, nothing can be seen or booked; and you can take it back under Workspace.',
  yourPageLive: 'Your page is live',
  sendAddressSomebodyNext:
    'Send that address to somebody. Next, connect your calendars, so that nobody is offered a time you are busy.',
  done: 'Done',
  whoMayBook: 'Who may book',
  publishPage: 'Publish the page',
}
