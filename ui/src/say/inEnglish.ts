import { speak } from '.'

// Tests are read in English; what is loaded after this may say something at once.
await speak('en')
