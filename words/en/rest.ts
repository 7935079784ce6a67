import account from './account'
import accounts from './accounts'
import answers from './answers'
import blocked from './blocked'
import calendar from './calendar'
import charges from './charges'
import company from './company'
import connections from './connections'
import contacts from './contacts'
import dialogs from './dialogs'
import elements from './elements'
import faults from './faults'
import figures from './figures'
import files from './files'
import firstHour from './first-hour'
import handset from './handset'
import identity from './identity'
import input from './input'
import likely from './likely'
import listening from './listening'
import log from './log'
import messages from './messages'
import numbers from './numbers'
import openThings from './open-things'
import outside from './outside'
import ownSounds from './own-sounds'
import parkings from './parkings'
import recordings from './recordings'
import refusals from './refusals'
import reports from './reports'
import shift from './shift'
import signIn from './sign-in'
import sound from './sound'
import spokenName from './spoken-name'
import telephones from './telephones'
import trunks from './trunks'
import upkeep from './upkeep'
import wall from './wall'
import watch from './watch'
import whereabouts from './whereabouts'

/** What dialogs and the other pages say. */
export default {
  account,
  accounts,
  answers,
  blocked,
  calendar,
  charges,
  company,
  connections,
  contacts,
  dialogs,
  elements,
  faults,
  figures,
  files,
  firstHour,
  handset,
  identity,
  input,
  likely,
  listening,
  log,
  messages,
  numbers,
  openThings,
  outside,
  ownSounds,
  parkings,
  recordings,
  refusals,
  reports,
  shift,
  signIn,
  sound,
  spokenName,
  telephones,
  trunks,
  upkeep,
  wall,
  watch,
  whereabouts,
} as const
