import { spoken } from '../words/phrase'
import { t } from './language'
import { parseArgs } from 'node:util'
import type { ExchangeState, NumberedEvent } from '../core/calls/model'
import { recordingOf } from '../core/calls/recording/recordings'
import { leavingOf } from '../core/sound/recording'
import { voiceOf } from '../core/sound/voices'
import { readSecretFiles } from '../shared/secret-files'
import type { Ports } from './browser'
import { everyFrame } from './clock'
import { openDoors } from './doors'
import { Ears } from './ears'
import { Follower } from './follower'
import { Mixer } from './mixer'
import { OwnSounds } from './own-sounds'
import { Pieces } from './recorder'
import { Repertoire } from './repertoire'
import { SpokenByProgram } from './speech'
import { Telephones } from './telephones'

/**
 * The sound of calls, as a program of its own, until it is told to stop: every browser hears what the state of the exchange says that its telephone hears.
 * It may end in the middle of calls and begin again: they go on. The secret of the exchange link is in ESTAFETTE_LINK_TOKEN.
 */
const { values } = parseArgs({ options: { port: { type: 'string', default: '0' }, exchange: { type: 'string' }, udp: { type: 'string' } } })
const [fault] = readSecretFiles(process.env, ['ESTAFETTE_LINK_TOKEN'])
const token = process.env.ESTAFETTE_LINK_TOKEN ?? ''
const missing = token ? null : 'ESTAFETTE_LINK_TOKEN must hold the secret that is said to the exchange.'
const [, from, to] = /^(\d{1,5})-(\d{1,5})$/.exec(values.udp ?? '') ?? []
const wrongRange = values.udp && !(Number(from) <= Number(to)) ? '--udp must be two ports, as 40000-40400.' : null
const problem = fault ?? missing ?? problemOf('port') ?? problemOf('exchange') ?? wrongRange
if (problem) {
  console.error(problem)
  process.exit(2)
}

function problemOf(name: 'port' | 'exchange'): string | null {
  return /^\d{1,5}$/.test(values[name] ?? '') ? null : `--${name} must be the number of a port.`
}

const speech = new SpokenByProgram(new URL('./speech-thread.mjs', import.meta.url), text => console.error(text))
const follower = new Follower(Number(values.exchange), token, speakFor)
const own = new OwnSounds()
const pieces = new Pieces(text => console.error(text))
const mixer = new Mixer(() => follower.state, new Repertoire(speech, own), pieces)
const ports: Ports | null = from && to ? [Number(from), Number(to)] : null
const ears = new Ears(mixer, ports)
const telephones = new Telephones(mixer, ports)

/** A caption stands for a voice: whoever has no microphone here is given one. */
function speakFor(event: NumberedEvent, state: ExchangeState): void {
  if (event.type !== 'callInformation' && event.type !== 'pageSpoken') return
  const { device, text } = event
  const call = event.type === 'callInformation' ? state.calls.get(event.call) : undefined
  // What nobody could hear need not be made.
  const isHeard = mixer.listening > 0 || (call && (leavingOf(call) ?? recordingOf(call)))
  if (!text || !isHeard || mixer.hasMouth(device)) return
  const party = call?.connections.find(connection => connection.device === device)?.party
  void speech.speak(spoken(t, text), voiceOf(party?.number ?? device)).then(samples => samples && mixer.say(device, samples))
}

const health = () => ({ exchange: follower.up ? 'up' as const : 'down' as const, speech: speech.isThere ? 'up' as const : 'down' as const })
const { port, server } = await openDoors(ears, telephones, pieces, own, health, { port: Number(values.port), token })
const stopTicking = everyFrame(() => mixer.tick())
console.log(`sound ready on 127.0.0.1:${port}`)
process.send?.({ ready: true, port })

function leave(): void {
  stopTicking()
  ears.close()
  telephones.close()
  follower.close()
  speech.close()
  server.close()
  process.exit(0)
}
process.once('SIGTERM', leave)
process.once('SIGINT', leave)
// Started by another program, it ends with it.
process.once('disconnect', leave)
// A packet of somebody far away must not end everybody's sound.
process.on('uncaughtException', error => console.error(`sound: ${error.message}`))
