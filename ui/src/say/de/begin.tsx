import type { Say } from '..'

export const begin: Say['begin'] = {
  corrim: (sign) => <>{sign} Corrim</>,
  setUpYourWorkspace: 'Ihren Arbeitsbereich einrichten',
  fewMinutesFromHere:
    'In wenigen Minuten können Kunden bei Ihnen buchen. Nichts wird veröffentlicht, bevor Sie es sagen, und Sie können bei jedem Schritt aufhören und später weitermachen.',
  whatClientsCallYou: 'Wie Kunden Sie nennen',
  yourPageWillP: (host, slug) => `Ihre Seite wird ${host}/p/${slug} sein`,
  shortNameAddresses: 'Kurzname, wie er in Adressen steht',
  yourOwnName: 'Ihr eigener Name',
  yourTimeZone: 'Ihre Zeitzone',
  yourMailAddress: 'Ihre E-Mail-Adresse',
  least12CharactersFew: 'Mindestens 12 Zeichen. Ein paar Wörter lassen sich leicht merken.',
  aPassword: 'Ein Passwort',
  standsWhereProgramWas: 'Er steht dort, wo das Programm gestartet wurde, neben der Adresse zum Öffnen.',
  codeInstallation: 'Code dieser Installation',
  makeWorkspace: 'Arbeitsbereich anlegen',
  whenYouWork: 'Wann Sie arbeiten',
  yourFirstMeetingType: 'Ihre erste Terminart',
  yourColleagues: 'Ihre Kollegen',
  yourPage: 'Ihre Seite',
  settingUp: 'Einrichten',
  stepOf: (shown, names) => `Schritt ${shown} von ${names}`,
  continueLater: 'Später fortsetzen',
  steps: 'Schritte',
  typeHoursLikeDraw: (strong) => (
    <>
      Schreiben Sie Zeiten wie {strong}, oder zeichnen Sie sie auf die Bänder. Ausnahmen, Feiertage und Ihre Kalender
      kommen später, unter Arbeitszeiten und Kalender.
    </>
  ),
  theseMyHours: 'Das sind meine Arbeitszeiten',
  videoFreshRoomEach: 'per Video, jedes Mal neu',
  phoneWeCallClient: 'per Telefon; wir rufen den Kunden an',
  clientsAddress: 'an der Adresse des Kunden',
  agreedLater: 'später vereinbart',
  firstConversation: 'Erstes Gespräch',
  youOffer: (types) => `Sie bieten an: ${types}.`,
  continueColleagues: 'Weiter zu den Kollegen',
  whatClientsCanBook: 'Was Kunden buchen können. Rechts: wann sie es könnten, nach Ihren Arbeitszeiten.',
  whatCalled: 'Wie sie heißt',
  howLongLastsMinutes: 'Wie lange sie dauert, in Minuten',
  howYouMeet: 'Wie Sie sich treffen',
  offer: 'Das anbieten',
  whoeverWorksYouGets:
    'Wer mit Ihnen arbeitet, bekommt eine E-Mail, wählt ein Passwort und hat eigene Arbeitszeiten und Kalender. Allein geht es auch.',
  invitationNotSentYet: (typed) =>
    `Die Einladung von ${typed} ist noch nicht gesendet. Sie wartet hier und unter Personen.`,
  continueYourPage: 'Weiter zu Ihrer Seite',
  continueWithoutColleagues: 'Ohne Kollegen weiter',
  anyoneWhoHasLink: 'alle, die den Link haben',
  peopleWorkspaceWhoSigned: 'angemeldete Personen des Arbeitsbereichs',
  nobodyWeEnterBookings: 'niemand; wir tragen Buchungen selbst ein',
  whatBecomesVisible: 'Was sichtbar wird',
  pageAt: (host) => `die Seite ${host}`,
  withName: (path, workspace) => (
    <>
      {path}, mit dem Namen „{workspace}“
    </>
  ),
  typeAt: (type, duration, host) => `„${type}“, ${duration} Minuten, unter ${host}`,
  yourNameTimesWhich: (path, me) => (
    <>
      {path}, mit Ihrem Namen, {me}, und den Zeiten, zu denen Sie frei sind
    </>
  ),
  theyCantBookedThere: '; gebucht werden können sie dort nicht',
  nobodySeesYourMail:
    'Niemand sieht Ihre E-Mail-Adresse, Ihre Woche oder etwas aus Ihren Kalendern. Bis Sie veröffentlichen, ist nichts zu sehen und nichts zu buchen; und unter Arbeitsbereich können Sie es zurücknehmen.',
  yourPageLive: 'Ihre Seite ist öffentlich',
  sendAddressSomebodyNext:
    'Schicken Sie jemandem diese Adresse. Verbinden Sie als Nächstes Ihre Kalender, damit niemandem eine Zeit angeboten wird, zu der Sie belegt sind.',
  done: 'Fertig',
  whoMayBook: 'Wer buchen darf',
  publishPage: 'Seite veröffentlichen',
}
