import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ExchangeState } from '../calls/model'
import { isMailbox } from '../calls/names'
import { callsOf, connectionOf, isConversation, placesOf } from '../calls/questions'
import { begin, carryOut, requestOf, runsOf, start, waitOf, wish } from '../calls/wishes'
import { heardAtLoudspeaker, heardBy, heardByMailbox, type Heard } from './heard'

/** Random requests of many devices at once: at every ear, after each of them, what may be heard there and what may not. */

const seed = Number(process.env.LAW_SEED ?? Date.now() % 1_000_000)
const trail: string[] = []

function law(holds: unknown, words: string): void {
  if (!holds) throw new Error(`broken law: ${words}\nafter\n${trail.slice(-12).join('\n')}`)
}

/** Every telephone and every party outside. */
function earsOf(state: ExchangeState): Set<string> {
  const inCalls = [...state.calls.values()].flatMap(({ connections }) => connections.map(({ device }) => device))
  return new Set([...state.devices.keys(), ...inCalls.filter(device => !isMailbox(device) && connectionOfAny(state, device) !== 'queued')])
}

const connectionOfAny = (state: ExchangeState, device: string) => callsOf(state, device).map(call => connectionOf(call, device)!.state)[0]

/** Whose microphones are open in the one call at which an ear listens; a muted one is not. */
function openBeside(state: ExchangeState, ear: string): Set<string> {
  const listening = state.listenings.get(ear)
  if (listening) {
    const own = connectionOf(state.calls.get(listening.call)!, listening.to)!
    if (!isConversation(state.calls.get(listening.call)!)) return new Set()
    const theirs = own.state === 'connected' ? openBeside(state, listening.to) : new Set<string>()
    return own.state === 'connected' && !own.muted ? theirs.add(listening.to) : theirs
  }
  const call = callsOf(state, ear).find(candidate => connectionOf(candidate, ear)!.state === 'connected')
  return new Set(call?.connections.filter(({ device, state: its, muted }) => device !== ear && its === 'connected' && !muted).map(({ device }) => device))
}

function checkEar(state: ExchangeState, ear: string, heard: Heard): void {
  const beside = openBeside(state, ear)
  law(heard.voices.every(voice => beside.has(voice)), 'nobody is heard but whom the call connects, with the microphone open')
  law(heard.voices.every(voice => !isMailbox(voice)), 'a mailbox has no voice')
  law(new Set(heard.voices).size === heard.voices.length && !heard.voices.includes(ear) && heard.page !== ear, 'nobody hears themselves, or somebody twice')
  const kinds = [heard.voices.length > 0, heard.music, heard.tone !== null, heard.announcement === 'mailbox'].filter(Boolean)
  law(kinds.length <= 1, 'people, music, a tone and a mailbox are never heard at once')
  law(heard.announcement !== 'place' || heard.tone === 'ringing', 'a place is told to who waits')
  for (const by of heard.whispers) {
    const listening = state.listenings.get(by)
    law(listening?.whispers && listening.to === ear, 'a whisper is heard by whom it is for')
    law(connectionOf(state.calls.get(listening!.call)!, ear)?.state === 'connected', 'a whisper is heard on the call that it is about')
    const others = state.calls.get(listening!.call)!.connections.filter(({ device }) => device !== ear)
    law(others.every(({ device, along }) => !state.devices.has(device) && !along), 'nobody whispers where somebody else of ours may hear it')
  }
  law(heard.page === null || state.company.telephones[ear], 'nobody outside hears a page')
  law(heard.page === null || heardBy(state, heard.page).voices.length === 0, 'who speaks on a page talks to nobody')
  if (isConnectedNowhere(state, ear) && !state.listenings.has(ear)) law(kinds.length === 0, 'who is on no line hears nothing of one')
}

const isConnectedNowhere = (state: ExchangeState, ear: string) => callsOf(state, ear).every(call => connectionOf(call, ear)!.state !== 'connected')

function checkCallers(state: ExchangeState): void {
  for (const call of state.calls.values()) {
    const { calling } = call
    const its = connectionOf(call, calling)
    if (its?.state !== 'connected') continue
    const heard = heardBy(state, calling)
    switch (placesOf(call)[0]) {
      case 'parked': law(heard.music, 'who is parked hears music'); break
      case 'onHold': law(heard.music || isConversation(call), 'who is on hold hears music'); break
      case 'waiting': case 'ringing': law(heard.tone === 'ringing' || isConversation(call), 'who waits hears it ring'); break
      case 'tone': law(heard.tone !== null && heard.tone !== 'ringing', 'who reached nobody hears why'); break
      default: law(!heard.music && heard.tone === null, 'who talks hears no music and no tone')
    }
    // Colleagues who are asked about a caller are in a call of their own: the caller hears none of it.
    for (const other of state.calls.values())
      if (other.consultation === call.id) law(heard.voices.every(voice => connectionOf(call, voice)), 'a caller hears nothing of what is asked about them')
    for (const { device } of call.connections.filter(({ device }) => isMailbox(device)))
      law(heardByMailbox(call, device).voices.every(voice => connectionOf(call, voice)?.state === 'connected'), 'a mailbox writes down whoever speaks to it')
  }
}

function checkEverything(state: ExchangeState): void {
  const all = new Map([...earsOf(state)].map(ear => [ear, heardBy(state, ear)] as const))
  for (const [ear, heard] of all) {
    checkEar(state, ear, heard)
    for (const voice of heard.voices) {
      const isMuted = callsOf(state, ear).some(call => connectionOf(call, voice) && connectionOf(call, ear)?.muted)
      law(isMuted || state.listenings.has(ear) || all.get(voice)?.voices.includes(ear), 'whoever is heard hears, but for whose microphone is off')
    }
  }
  for (const zone of Object.values(state.company.zones)) {
    for (const speaker of zone.speakers) {
      const by = heardAtLoudspeaker(state, speaker)
      law(by === null || [...state.pages.values()].some(page => page.by === by && page.reached.includes(speaker)), 'a loudspeaker says what was meant for it')
    }
  }
  for (const { by, call, to, at } of state.listenings.values()) {
    const begun = state.calls.get(call)?.story.filter(step => step.type === 'listeningBegun' && step.device === by && step.to === to)
    law(begun?.some(step => step.at === at), 'who listens is on record')
    law([...all].every(([, { voices, page }]) => !voices.includes(by) && page !== by), 'who listens is heard by nobody but whom they whisper to')
    law(all.get(by)!.whispers.length === 0, 'who listens hears no whisper')
  }
  checkCallers(state)
}

describe('who hears whom, after any requests of anybody', () => {
  it(`holds (seed ${seed})`, () => {
    let talked = 0
    let music = 0
    let listened = 0
    let whispered = 0
    fc.assert(fc.property(fc.array(wish, { minLength: 40, maxLength: 100 }), (wishes) => {
      let state = begin('sound')
      let now = start
      trail.length = 0
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (!request) continue
        trail.push(JSON.stringify(request))
        state = carryOut(state, request, now).state
        checkEverything(state)
        for (const device of state.devices.keys()) {
          const { voices, music: isMusic } = heardBy(state, device)
          if (voices.length > 0) talked++
          if (isMusic) music++
        }
        listened += state.listenings.size
        whispered += [...state.listenings.values()].filter(({ whispers }) => whispers).length
      }
    }), { numRuns: runsOf(400), seed, endOnFailure: true })
    expect([talked, music, listened].every(count => count > 100)).toBe(true)
    expect(whispered).toBeGreaterThan(10)
  }, 120_000)
})
