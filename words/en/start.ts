import callBacks from './call-backs'
import callers from './callers'
import common from './common'
import field from './field'
import floor from './floor'
import frame from './frame'
import greeting from './greeting'
import keys from './keys'
import lines from './lines'
import names from './names'
import opening from './opening'
import paging from './paging'
import panel from './panel'
import presence from './presence'
import queues from './queues'
import records from './records'
import speedKeys from './speed-keys'
import status from './status'
import story from './story'
import summaries from './summaries'
import tidings from './tidings'
import track from './track'
import ways from './ways'

/** What the console says, and what every page says: fetched before anything is shown. */
export default {
  callBacks,
  callers,
  common,
  field,
  floor,
  frame,
  greeting,
  keys,
  lines,
  names,
  opening,
  paging,
  panel,
  presence,
  queues,
  records,
  speedKeys,
  status,
  story,
  summaries,
  tidings,
  track,
  ways,
} as const
