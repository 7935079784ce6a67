import { saying } from '../core/schema/wording'
import { array, type InferType, number, object, string } from 'yup'
import { latestTime } from '../core/calls/model'
import { sampleRate } from '../core/sound/frames'
import { longestSound, musicPlace } from '../core/sound/own-sounds'

/** Sounds that somebody has recorded or brought, in the place of what the house plays and says by itself. */

/** Bytes of the head of a WAV file that says nothing but what is in it. */
const head = 4_096
const bytesOfSample = 2
/** Characters: the longest sound, as a WAV file of 16 bit, as base64. */
export const longestFile = Math.ceil((longestSound(musicPlace) * sampleRate * bytesOfSample + head) / 3) * 4

const place = () => string().strict().min(1).max(200).required().label('place')
export const withPlace = object({ place: place() })

/** A WAV file of one channel and 16 bits at 8 kHz, as base64; `name`: of the file that it was made from, or empty when it was recorded here. */
export const broughtSound = object({
  wav: string().strict().max(longestFile).matches(/^[A-Za-z0-9+/]*={0,2}$/, saying('input.base64')).required().label('wav'),
  name: string().strict().max(120).defined().label('name'),
}).noUnknown().strict()

export const soundsKept = object({
  sounds: array(object({
    place: place(),
    seconds: number().min(0).required(),
    name: string().defined(),
    by: string().required(),
    /** Milliseconds since 1970. */
    at: number().min(0).max(latestTime).required(),
    version: string().required(),
  })).required(),
})
export type SoundKept = InferType<typeof soundsKept>['sounds'][number]

/** What the server and the sound process say to each other of them. */
const soundAtPlace = object({ place: place(), version: string().strict().max(100).required() }).noUnknown().strict()
export type SoundAtPlace = InferType<typeof soundAtPlace>
/** More than a house of 20,000 with a greeting for each status has. */
const mostSounds = 200_000
export const soundsAtPlaces = object({ sounds: array(soundAtPlace.required()).max(mostSounds).required() }).noUnknown().strict()
/** G.711 (µ-law) as base64. */
export const soundGiven = soundAtPlace.shape({ sound: string().strict().max(longestFile).defined() })
