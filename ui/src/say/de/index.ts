import { german } from '../../time/words.de'
import type { Say } from '..'
import { account } from './account'
import { begin } from './begin'
import { board } from './board'
import { bookingPage } from './bookingPage'
import { calendars } from './calendars'
import { clients } from './clients'
import { edit } from './edit'
import { find } from './find'
import { hours } from './hours'
import { kit } from './kit'
import { looks } from './looks'
import { messages } from './messages'
import { people } from './people'
import { ribbon } from './ribbon'
import { routing } from './routing'
import { rules } from './rules'
import { server } from './server'
import { share } from './share'
import { shell } from './shell'
import { today } from './today'
import { types } from './types'
import { workspace } from './workspace'

export const de: Say = {
  dates: german,
  server,
  account,
  begin,
  board,
  calendars,
  clients,
  edit,
  find,
  hours,
  kit,
  looks,
  messages,
  bookingPage,
  people,
  ribbon,
  routing,
  rules,
  share,
  shell,
  today,
  types,
  workspace,
}
