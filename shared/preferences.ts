import { saying } from '../core/schema/wording'
import { loudnesses, type Voice, voices } from '../core/console/announcements'
import { densities } from '../core/console/floor'
import { array, boolean, type InferType, number, object, string } from 'yup'

const size = number().strict().integer().min(0).max(4000)
const fields = {
  /** Heights and widths in CSS pixels; null: as designed. */
  track: size.nullable().label('track'),
  panel: size.nullable().label('panel'),
  panelShown: boolean().strict().label('panelShown'),
  density: string().strict().oneOf(densities).label('density'),
  loudness: string().strict().oneOf(loudnesses).label('loudness'),
  /** How fast the voice is that reads what is said. */
  voice: string().strict().oneOf(Object.keys(voices) as Voice[]).label('voice'),
  /** What callers are heard to say is said too. */
  saysWords: boolean().strict().label('saysWords'),
  /** People who stand first on the floor, by their ids. */
  pinned: array(string().strict().max(80).required()).max(24).label('pinned'),
  /** Whom one has chosen lately, the more often the more (`core/console/habit.ts`). */
  chosen: array(object({ id: string().strict().max(80).required(), weight: number().strict().min(0).max(1_000).required() })).max(40).label('chosen'),
  /** The page of speed keys along the floor's edge; null: none. */
  pinnedKeys: string().strict().max(60).matches(/^[\w-]+$/, saying('input.pageOfKeys')).nullable().label('pinnedKeys'),
}

/** What somebody has set of their console. */
export const preferences = object({
  track: fields.track.defined(),
  panel: fields.panel.defined(),
  panelShown: fields.panelShown.required(),
  density: fields.density.required(),
  loudness: fields.loudness.required(),
  voice: fields.voice.required(),
  saysWords: fields.saysWords.required(),
  pinnedKeys: fields.pinnedKeys.defined(),
  pinned: fields.pinned.required(),
  chosen: fields.chosen.required(),
}).required()
export type Preferences = InferType<typeof preferences>

/** What is changed; whatever is left out stays as it was. */
export const preferencesChange = object(fields).noUnknown().required()
export type PreferencesChange = Partial<Preferences>
