import type { ReactNode } from 'react'

export const looks = {
  asItIs: (label: string) => `${label} as it is`,
  chooseAnother: 'Choose another',
  choosePngJpeg: 'Choose a PNG or JPEG',
  pngJpeg: (label: string) => `${label}: a PNG or JPEG`,
  remove: 'Remove',
  chooseColour: 'Choose the colour',
  cantReadOurGround: (swatch: ReactNode, swatch2: ReactNode) => (
    <>
      {swatch} can’t be read on our ground, so pages show {swatch2} instead: the nearest of its kind with a contrast of
      4.5.
    </>
  ),
  looks: 'Looks',
  yourPages: 'of your pages',
  theWorkspace: 'The workspace',
  notKept: (message: string) => `not kept: ${message}`,
  draftClientsSeeOld: 'a draft; clients see the old looks',
  discardChanges: 'Discard changes',
  publishLooks: 'Publish the looks',
  colourWhatCanPressed: 'Colour of what can be pressed',
  corrimsOwn: 'Corrim’s own',
  logo: 'Logo',
  banner: 'Banner',
  buttonBooksBeforeTime: 'On the button that books, before the time',
  book: 'Book',
  buttonAsksTime: 'On the button that asks for a time',
  ask: 'Ask for',
  yourWelcomeTextStands: 'Your welcome text stands under',
  workspace: 'Workspace',
  aboutYou: ', “About you”.',
  phone: 'A phone',
  tablet: 'A tablet',
  desk: 'A desk',
  yourPageThreeWidths: 'Your page at three widths',
  wide: (name: string, width: number) => `${name}, ${width} wide`,
  yourPageWide: (width: number) => `Your page, ${width} wide`,
}
