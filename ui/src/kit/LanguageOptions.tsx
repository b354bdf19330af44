import { languages } from '../page/texts'

/** The languages of clients' pages, for a list to choose from. */
export function LanguageOptions() {
  return Object.entries(languages).map(([code, name]) => (
    <option key={code} value={code} lang={code}>
      {name}
    </option>
  ))
}
