import type { Say } from '..'

export const looks: Say['looks'] = {
  asItIs: (label) => `${label}, wie es ist`,
  chooseAnother: 'Ein anderes wählen',
  choosePngJpeg: 'PNG oder JPEG wählen',
  pngJpeg: (label) => `${label}: PNG oder JPEG`,
  remove: 'Entfernen',
  chooseColour: 'Farbe wählen',
  cantReadOurGround: (swatch, swatch2) => (
    <>
      {swatch} ist auf unserem Grund nicht lesbar, deshalb zeigen die Seiten stattdessen {swatch2}: die nächste ihrer
      Art mit einem Kontrast von 4,5.
    </>
  ),
  looks: 'Aussehen',
  yourPages: 'Ihrer Seiten',
  theWorkspace: 'Der Arbeitsbereich',
  notKept: (message) => `nicht gespeichert: ${message}`,
  draftClientsSeeOld: 'ein Entwurf; Kunden sehen das bisherige Aussehen',
  discardChanges: 'Änderungen verwerfen',
  publishLooks: 'Aussehen veröffentlichen',
  colourWhatCanPressed: 'Farbe dessen, was gedrückt werden kann',
  corrimsOwn: 'die von Corrim',
  logo: 'Logo',
  banner: 'Banner',
  buttonBooksBeforeTime: 'Auf dem Knopf, der bucht, vor der Uhrzeit',
  book: 'Buchen',
  buttonAsksTime: 'Auf dem Knopf, der eine Zeit anfragt',
  ask: 'Anfragen',
  yourWelcomeTextStands: 'Ihr Begrüßungstext steht unter',
  workspace: 'Arbeitsbereich',
  aboutYou: ', „Über Sie“.',
  phone: 'Ein Telefon',
  tablet: 'Ein Tablet',
  desk: 'Ein Schreibtisch',
  yourPageThreeWidths: 'Ihre Seite in drei Breiten',
  wide: (name, width) => `${name}, ${width} breit`,
  yourPageWide: (width) => `Ihre Seite, ${width} breit`,
}
