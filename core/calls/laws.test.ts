import fc from 'fast-check'
import { isCollection } from 'immutable'
import { describe, expect, it } from 'vitest'
import { asWaiting, isPrompt, onTheLine, promiseOf } from './call-backs/call-backs'
import { evolve } from './evolve'
import { freeIn } from './indexes'
import { pageRanks } from '../company/company'
import type { Call, CallBack, ExchangeState, NumberedEvent, Page, Request } from './model'
import { unliftedIn } from './paging/intercom'
import { isMailbox } from './names'
import { waitsAtClosed } from '../queues/closing'
import { openingOwner } from '../queues/openings'
import { hearersOf, speakingAt } from './paging/pages'
import { isOrphaned, isServing, memberPlace, serves } from '../queues/serving'
import {
  callsOf,
  channelsUsed,
  connectionOf,
  holdersOf,
  isConversation,
  isEmergency,
  isOutside,
  isPresent,
  parkedIn,
  placesOf,
  queueOf,
  talkingCallOf,
} from './questions'
import { stretchOf } from './stretches'
import { snapshotOf, stateOf } from './snapshot'
import { keyOf, nextDeadline, timersOf } from './timers'
import { inTheirTurn, waitingIn } from '../queues/turns'
import { begin, carryOut, operators, requestOf, runsOf, start, waitOf, wish } from './wishes'

/** Random requests from many devices at once; every law is checked after every single one. LAW_RUNS sets how many sequences. */

/** The last things that happened, told when a law is broken. */
const trail: string[] = []

/** Plain and quick: laws are checked hundreds of thousands of times. */
function law(holds: unknown, words: string): void {
  if (!holds) throw new Error(`broken law: ${words}\nafter\n${trail.slice(-12).join('\n')}`)
}

/** Whoever changes an old state from now on throws. What is frozen already is passed over, so each change is frozen once; maps and trees guard themselves. */
function freeze<T>(value: T): T {
  if (typeof value !== 'object' || value === null || Object.isFrozen(value)) return value
  if (isCollection(value)) value.forEach(freeze)
  if (!Array.isArray(value) && Object.getPrototypeOf(value) !== Object.prototype) return value
  Object.freeze(value)
  for (const part of Object.values(value)) freeze(part)
  return value
}

/** What the indexes of a state say, in an order of its own. */
function indexesOf({ indexes: { callsAt, channels, timers, timersOf, free } }: ExchangeState) {
  return {
    callsAt: callsAt.map(calls => [...calls].sort()).toObject(),
    channels: channels.filter(used => used > 0).toObject(),
    timers: [...timers.keys()],
    free: [...free.keys()],
    timersOf: timersOf.map(own => own.map(keyOf).sort()).toObject(),
  }
}

/**
 * Only who talks with somebody (whoever leaves a conference on hold keeps nobody waiting) or with a mailbox, and who calls an emergency number, waits
 * for nothing.
 */
function waits(call: Call): boolean {
  if (isOutside(call) || unliftedIn(call) || call.connections.some(({ device, invitedBy }) => isMailbox(device) || invitedBy)) return true
  const emergency = call.connections.some(({ state, party }) => state === 'alerting' && party?.number === '999')
  return placesOf(call)[0] !== 'talking' && !isConversation(call) && !emergency
}

function checkState(state: ExchangeState): void {
  checkPages(state)
  checkListenings(state)
  for (const call of state.calls.values()) checkRecording(state, call)
  const talkers = new Set<string>()
  const taken = new Set<string>()
  for (const trunk of Object.keys(state.company.trunks))
    law(channelsUsed(state, trunk) <= state.company.trunks[trunk]!.channels, 'a trunk carries no more calls than it has channels')
  for (const device of state.devices.keys())
    law(state.company.telephones[device] || callsOf(state, device).length > 0, 'a telephone that the company has no longer is there for its last call only')
  for (const call of state.calls.values()) {
    const places = placesOf(call)
    law(places.length === 1, `call ${call.id} is in exactly one place, not in ${places.join(' and ') || 'none'}`)
    law(connectionOf(call, call.calling), 'the caller is in the call')
    law(new Set(call.connections.map(connection => connection.device)).size === call.connections.length, 'nobody is in a call twice')
    law(
      (timersOf(state, call).length > 0) === waits(call),
      'what rings, waits, is parked, on hold, records, failed or talks outside ends by itself, and nothing else',
    )
    law(
      !holdersOf(state, call).every(({ device }) => state.agents.get(device) && !isPresent(state, device)) || holdersOf(state, call).length === 0,
      'nobody is on hold with an operator who has gone',
    )
    checkIntercom(state, call)
    law(call.connections.every(({ party, state: its }) => its !== 'alerting' || party?.number !== '+449098790123'), 'nobody calls whom the rules forbid')
    law(call.watched === null || isOutside(call), 'only two parties outside are watched')
    law(!call.conference || call.conference.by === null || connectionOf(call, call.conference.by), 'who leads a conference is in it')
    law(
      !call.conference || call.conference.by !== null || call.connections.every(({ device, state: its }) => !state.devices.get(device) || its === 'alerting'),
      'a conference with one of ours in it is led',
    )
    law(call.passing === null || ['ringing', 'waiting'].includes(places[0]!), 'a call passed on rings or waits somewhere')
    law((call.parked !== null) === (places[0] === 'parked'), 'who is parked is in a slot')
    law(!call.parked || (!taken.has(call.parked.slot) && parkedIn(state, call.parked.slot) === call), 'one caller to a slot')
    if (call.parked) taken.add(call.parked.slot)
    law(operators.filter(operator => stretchOf(state, call, operator) === 'passedOn').length <= 1, 'one operator watches a call passed on')
    law(!isOrphaned(state, call), 'nobody waits where nobody serves')
    const queue = queueOf(call)?.device
    law(queue === undefined || state.company.groups[queue]!.distribution === 'queue', 'nobody waits where a group rings')
    const most = queue === undefined ? 0 : state.company.groups[queue]?.mostWaiting ?? 0
    law(most === 0 || waitingIn(state, queue!).length <= most, 'no more wait in a queue than may')
    law(queue === undefined || !waitsAtClosed(state, call, queue), 'nobody waits where it is closed')
    checkOffers(state, call)
    law(call.consultation === null || state.calls.get(call.consultation), 'who is asked about a caller is asked about one who is there')
    law(
      call.conference === null || call.connections.filter(({ state: its }) => its === 'connected' || its === 'held').length > 2,
      'a conference is three or more',
    )
    law(call.connections.length <= state.company.settings.conferenceSize || call.passing, 'a conference holds so many and no more')
    if (places[0] === 'waiting' && call.connections.some(({ device }) => device === 'operators')) {
      law(
        operators.some(operator => isPresent(state, operator) && serves(state, call, operator) && stretchOf(state, call, operator) !== null),
        'who waits for an operator is on the console of one who is there',
      )
    }
    for (const connection of call.connections) {
      if (connection.state !== 'connected') continue
      law(!talkers.has(connection.device) || isMailbox(connection.device), `${connection.device} talks on at most one call`)
      talkers.add(connection.device)
    }
  }
}

/** Nobody talks with anybody who has not lifted, but for an operator who is there and speaks to their room. */
function checkIntercom(state: ExchangeState, call: Call): void {
  const unlifted = unliftedIn(call)
  if (!unlifted) return
  const [speaker, ...more] = call.connections.filter(other => other !== unlifted)
  law(unlifted.state === 'connected' && unlifted.muted && more.length === 0, 'who has not lifted is in a call of two, and not heard')
  law(speaker?.state === 'connected' && !speaker.party && state.agents.get(speaker.device)?.attended, 'nobody but an operator speaks to who has not lifted')
}

/** A queue that rings its members loses nobody, rings nobody who does not serve it, and lets nobody wait whom somebody free could answer. */
function checkOffers(state: ExchangeState, call: Call): void {
  const offers = call.connections.filter(({ offeredBy }) => offeredBy)
  const queue = queueOf(call)?.device
  const promise = isPrompt(call) ? state.callBacks.get(call.callBack!) : undefined
  law(!isPrompt(call) || (promise?.call === call.id && call.connections.length === 1), 'one member rings for a promise that is open')
  law(offers.every(({ offeredBy, state: its }) => its === 'alerting' && offeredBy === (promise?.queue ?? queue)), 'a queue rings for who waits in it')
  law(offers.every(({ device }) => serves(state, promise ? asWaiting(promise) : call, device)), 'a queue rings at who serves it')
  const group = queue === undefined ? undefined : state.company.groups[queue]
  if (!group || group.ringing === 'none' || offers.length > 0) return
  law([...freeIn(state, group.id)].every(device => !serves(state, call, device)), 'nobody waits whom a free member could be rung for')
}

function isOpenNow(state: ExchangeState, { queue, line }: CallBack): boolean {
  return [queue, ...line === null ? [] : [line]].every(of => state.openings.get(of)?.open ?? true)
}

/** What is closed and concerns a promise opens by itself. */
function timersOfOpenings(state: ExchangeState, queue: string, line: string | null): boolean {
  return [queue, ...line === null ? [] : [line]].every(of => (state.openings.get(of)?.open ?? true) || state.indexes.timersOf.has(openingOwner(of)))
}

function isPromised(state: ExchangeState, number: string | null): boolean {
  return number !== null && state.callBacks.some(({ party }) => party.number === number)
}

/** A promise is forgotten by nobody: it is open, or it ended as somebody will read; and nobody is called back twice at once, or while on the line. */
function checkPromises(before: ExchangeState, after: ExchangeState): void {
  for (const id of before.callBacks.keys()) law(promiseOf(after, id), 'a promise is open or over, never forgotten')
  for (const promise of after.callBacks.values()) {
    const calls = [...after.calls.values()].filter(call => call.callBack === promise.id)
    law(calls.length <= 1 && (promise.call === null || promise.call === calls[0]?.id), 'a promise has one call that is to keep it')
    const queue = after.company.groups[promise.queue]
    law(queue?.distribution === 'queue', 'a promise has a queue that is to keep it')
    const timers = after.indexes.timersOf.get(promise.id) ?? []
    const assigned = promise.assigned !== null && after.company.telephones[promise.assigned]?.inService
    law(!promise.assigned || assigned, 'whoever has a promise has a telephone')
    const opens = [promise.queue, ...promise.line === null ? [] : [promise.line]]
      .every(of => after.openings.get(of)?.open ?? true) || timersOfOpenings(after, promise.queue, promise.line)
    const theirs = queue!.members.some(member => isServing(memberPlace(after, promise.queue, member)))
    const keeps = promise.queue === after.company.settings.operators || (opens && (theirs || !isOpenNow(after, promise)))
    law(promise.call || assigned || timers.some(({ name }) => name === 'callBack') || keeps,
      'a promise is rung for, waits for its time, or is somebody\'s duty')
    law(promise.late || timers.some(({ name }) => name === 'callBackLate'), 'a promise is told to be late one day')
    law(!calls[0] || !isPrompt(calls[0]) || !onTheLine(after, promise), 'nobody is asked to call back whoever is on the line')
  }
}

const rankOf = ({ rank }: Page) => pageRanks.indexOf(rank)

/** Nobody hears a page who is not meant to, on no loudspeaker do two speak, and no microphone stays open. */
function checkPages(state: ExchangeState): void {
  const sounding = new Set<string>()
  for (const page of state.pages.values()) {
    law(state.indexes.timersOf.get(page.id)?.length === 1, 'a page ends by itself')
    law(state.agents.get(page.by)?.attended && !talkingCallOf(state, page.by), 'who speaks on a page is there, and talks to nobody')
    law([...state.pages.values()].filter(({ by }) => by === page.by).length === 1, 'nobody speaks on two pages')
    const zone = state.company.zones[page.to]
    const heard = hearersOf(state, page)
    law(!page.waits || (heard.length === 0 && speakingAt(state, zone!.speakers, page.by).length > 0), 'a page that waits is not heard, and waits for somebody')
    const meant = zone?.speakers ?? state.company.groups[page.to]?.members ?? [page.to]
    law(heard.every(one => meant.includes(one)), 'a page is heard by whom it is for')
    law(!heard.includes(page.by), 'nobody hears themselves')
    const higher = [...state.pages.values()].filter(other => rankOf(other) > rankOf(page))
    const excused = (one: string) => talkingCallOf(state, one) || higher.some(({ reached }) => reached.includes(one))
    law(page.waits || page.reached.every(one => heard.includes(one) || !meant.includes(one) || excused(one)), 'whom a page has reached hears it')
    for (const one of heard) {
      law(!sounding.has(one), 'one speaker to a telephone or loudspeaker')
      sounding.add(one)
    }
  }
}

/** Who listens has the right, talks to nobody, and is in no call that they listen to; the colleague is in it. */
function checkListenings(state: ExchangeState): void {
  for (const { by, to, call: id, whispers } of state.listenings.values()) {
    const call = state.calls.get(id)
    const own = call && connectionOf(call, to)
    law(own?.state === 'connected' || own?.state === 'held', 'whom somebody listens to is in the call')
    law(!connectionOf(call!, by) && !isEmergency(state, call!), 'who listens is not in the call')
    law(state.company.telephones[by]!.mayListen && state.agents.get(by)?.attended, 'who listens may, and is there')
    law(!talkingCallOf(state, by), 'who listens talks to nobody')
    law(![...state.pages.values()].some(page => page.by === by), 'who listens speaks on no page')
    const others = call!.connections.filter(({ device, along }) => device !== to && (state.devices.has(device) || along))
    law(!whispers || others.length === 0, 'a whisper reaches one of ours alone')
  }
}

/** A call is recorded as its line says, or at the word of somebody who is in it and may; that it is stands in its story. */
function checkRecording(state: ExchangeState, call: Call): void {
  const rule = call.line === null ? 'onRequest' : state.company.lines[call.line]?.recording ?? 'onRequest'
  const { recording } = call
  if (recording) {
    law(rule !== 'never', 'a line that is never recorded is not')
    law(recording.by === null ? rule === 'always' : connectionOf(call, recording.by), 'whoever asked for a recording is in the call')
    law(call.story.some(({ type, at }) => type === 'recordingStarted' && at === recording.since), 'a recording is on record')
    law(call.connections.some(({ device, along }) => state.devices.has(device) || along), 'nobody is recorded without one of ours')
    return
  }
  const talks = call.connections.filter(({ state: its }) => its === 'connected')
  const ours = talks.some(({ device, along }) => state.devices.has(device) || along)
  const others = call.connections.some(({ device, byItself }) => isMailbox(device) || byItself)
  law(rule !== 'always' || talks.length < 2 || !ours || others, 'a line that is always recorded is')
}

/** A page, or whoever listens, holds their own call, and does nothing to any other. */
function checkPaging(before: ExchangeState, after: ExchangeState, request: Request): void {
  if (!['openPage', 'speakOnPage', 'closePage', 'listenIn', 'stopListening', 'whisper'].includes(request.service)) return
  const { device } = request as { device: string }
  for (const [id, call] of before.calls) {
    const then = after.calls.get(id)
    // Where nobody has lifted somebody speaks like on a page, and gives way to one that matters more.
    if (unliftedIn(call)) continue
    // Whom an intercom that ends leaves free may be rung by a queue.
    const here = (one: Call | undefined) => one?.connections.filter(({ offeredBy }) => !offeredBy) ?? []
    law(here(then).length === here(call).length, 'a page ends and joins no call')
    for (const { device: of, state } of here(call)) {
      const now = connectionOf(then!, of)!.state
      law(now === state || (of === device && state === 'connected' && now === 'held'), 'a page holds the call of its speaker alone')
    }
  }
}

/** An emergency call is changed by who is in it, and nobody else comes into it. */
function checkEmergencies(before: ExchangeState, after: ExchangeState, request: Request): void {
  if (!('device' in request)) return
  for (const call of before.calls.values()) {
    if (!isEmergency(before, call) || connectionOf(call, request.device)) continue
    const then = after.calls.get(call.id)
    law(then?.connections.length === call.connections.length && then.connections.every(({ device, state }) => connectionOf(call, device)?.state === state),
      'nobody else changes an emergency call')
  }
}

/** Everybody who hears somebody, as pairs. A mailbox hears whoever is sent to it. */
function hearing(call: Call): Set<string> {
  const talking = call.connections.filter(({ state, device }) => state === 'connected' && !isMailbox(device)).map(({ device }) => device).sort()
  return new Set(talking.flatMap((one, index) => talking.slice(index + 1).map(other => `${one} ${other}`)))
}

const beginTalking: readonly string[] = [
  'answerCall', 'directedPickupCall', 'groupPickupCall', 'retrieveCall', 'reconnectCall', 'makeCall', 'intercomCall', 'conferenceCall', 'intrudeCall',
]

/** Nobody begins to hear anybody, and no caller goes, except by what somebody who may do so has asked for. */
function checkChange(before: ExchangeState, after: ExchangeState, request: Request): void {
  const asked = 'device' in request ? request.device : null
  const heard = new Set([...before.calls.values()].flatMap(call => [...hearing(call)]))
  for (const call of after.calls.values()) {
    if (before.calls.get(call.id) === call) continue
    for (const pair of hearing(call)) {
      if (heard.has(pair)) continue
      const [one, other] = pair.split(' ')
      if (one === asked || other === asked) {
        law(
          beginTalking.includes(request.service),
          'people begin to talk by answering, taking, taking back or joining',
        )
        continue
      }
      law(
        request.service === 'transferCall' || request.service === 'conferenceCall',
        'a third party connects two people by completing a transfer or joining a conference, and by nothing else',
      )
      const both = [one, other].every(device => [...before.calls.values()].some(known => connectionOf(known, asked!) && connectionOf(known, device!)))
      law(both, 'only who has both on the line connects them')
    }
  }
  for (const [id, call] of before.calls.entries()) {
    if (after.calls.get(id)) continue
    const joined = (request.service === 'transferCall' && request.consultation === id) || (request.service === 'conferenceCall' && request.other === id)
    if (joined) {
      const target = after.calls.get(request.call)!
      law(call.connections.every(({ device }) => connectionOf(target, device) || device === asked), 'nobody is lost when two calls become one')
      continue
    }
    law(request.service !== 'configure' || isPrompt(call) || unliftedIn(call), 'no change of the company ends a call')
    const failed = call.failed !== null
    const recorded = request.service === 'tick' && call.connections.some(({ device }) => isMailbox(device))
    const own
      = ['clearConnection', 'clearCall', 'reconnectCall'].includes(request.service) && 'call' in request && request.call === id
        ? connectionOf(call, asked!)
        : undefined
    const preempted = ('number' in request && request.number === '999') || ('to' in request && request.to === '999')
    const parted = isOutside(call) && (request.service === 'tick' || request.service === 'clearCall')
    const left = request.service === 'generateDigits' && request.call === id
      && call.connections.some(({ party }) => party && isPromised(after, party.number))
    law(
      failed || recorded || own || preempted || parted || left || isPrompt(call) || unliftedIn(call),
      'a call ends only by one of its parties, or after the tone or the message',
    )
    const cutsOff
      = own
        && !own.party
        && own.state === 'held'
        && request.service === 'clearConnection'
        && call.connections.some(connection => connection !== own && connection.state === 'connected' && !isMailbox(connection.device))
    law(!cutsOff, 'nobody who hears music is cut off by who put them on hold')
  }
  const service = request.service
  if (service === 'tick' || service === 'setAgentState')
    law(
      [...before.calls.keys()].every(
        id =>
          after.calls.get(id)
          || before.calls.get(id)!.failed
          || isOutside(before.calls.get(id)!)
          || isPrompt(before.calls.get(id)!)
          || unliftedIn(before.calls.get(id)!)
          || before.calls.get(id)!.connections.some(({ device }) => isMailbox(device)),
      ),
      'time and absence cut nobody off',
    )
}

/** Each consultation ends with its caller in exactly one of three places: with the colleague, in hand, or on hold and visible. */
function checkConsultations(before: ExchangeState, after: ExchangeState, request: Request): void {
  for (const call of before.calls.values()) {
    if (!call.consultation || after.calls.get(call.id)?.consultation === call.consultation) continue
    const caller = before.calls.get(call.consultation)!.calling
    const primary = after.calls.get(call.consultation)
    if (!primary || !connectionOf(primary, caller)) continue
    const own = connectionOf(primary, call.calling)
    if (own)
      law(
        own.state === 'connected' || own.state === 'alerting' || (own.state === 'held' && stretchOf(after, primary, call.calling) === 'inHand'),
        'the caller of a consultation is in hand, on hold and visible, or rings again',
      )
    else law(request.service !== 'reconnectCall' || request.call !== call.id, 'who takes a caller back has them')
  }
}

/**
 * The same sequences every time, then fresh ones. A seed plays a failure again: LAW_SEED=…
 * It is told at once, with what happened last: to shorten a sequence takes minutes.
 */
const seeds = process.env.LAW_SEED === undefined ? [960, Date.now() & 0x7fffffff] : [Number(process.env.LAW_SEED)]
const runs = Math.ceil(runsOf(2_000) / seeds.length)

describe.each(seeds)('the laws of calls, seed %i,', (seed) => {
  it('hold after every request of long random sequences', () => {
    let requests = 0
    const carried = new Map<string, number>()
    fc.assert(fc.property(fc.array(wish, { minLength: 40, maxLength: 140, size: 'max' }), (wishes) => {
      const initial = begin('law')
      let state = initial
      let now = start
      const journal: NumberedEvent[] = []
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (!request) continue
        requests++
        const result = carryOut(freeze(state), request, now)
        if (!result.refused) {
          trail.push(JSON.stringify([request, result.events]))
          carried.set(request.service, (carried.get(request.service) ?? 0) + 1)
          const offers = result.events.filter(event => event.type === 'delivered' && event.offered)
          carried.set('offered', (carried.get('offered') ?? 0) + offers.length)
          const calls = new Set(state.calls.keys())
          for (const event of result.events) {
            // Whoever listened to a call is told that they do no longer when it is over.
            if ('call' in event && event.type !== 'listeningEnded') {
              law(event.type === 'originated' || calls.has(event.call), `nothing happens in a call that is over: ${event.type}`)
              if (event.type === 'callCleared') calls.delete(event.call)
              else calls.add(event.call)
            }
            const brought = event.type === 'originated' && event.prompted
              ? 'prompted'
              : event.type === 'callCleared' && event.cause === 'callBack'
                ? 'leftForCallBack'
                : null
            if (brought) carried.set(brought, (carried.get(brought) ?? 0) + 1)
          }
          checkChange(state, result.state, request)
          checkConsultations(state, result.state, request)
          checkPaging(state, result.state, request)
          checkEmergencies(state, result.state, request)
          checkPromises(state, result.state)
          if (request.service === 'answerLineOffer')
            law(!request.yes || !(request.line in result.state.agents.get(request.device)!.unserved), 'who takes a line serves it')
        }
        state = result.state
        journal.push(...result.events)
        checkState(state)
      }
      const oneByOne = (JSON.parse(JSON.stringify(journal)) as NumberedEvent[]).reduce(evolve, initial)
      expect(indexesOf(oneByOne), 'events that are taken together leave the same indexes').toEqual(indexesOf(state))
      expect(snapshotOf(oneByOne), 'the same events give the same state, one by one').toEqual(
        JSON.parse(JSON.stringify(snapshotOf(state))),
      )
      const other = stateOf(snapshotOf(state))
      for (const { id } of Object.values(state.company.groups)) {
        const order = (of: ExchangeState) => inTheirTurn(of, id).map(({ call, promise }) => call?.id ?? promise?.id)
        expect(order(other), 'who is served in which order does not hang on how a state is kept').toEqual(order(state))
      }
      expect(indexesOf(state), 'indexes that follow events are those of the whole').toEqual(indexesOf(stateOf(snapshotOf(state))))
    }), { numRuns: runs, seed, endOnFailure: true })
    console.log(`seed ${seed}, ${requests} requests; carried out: ${[...carried].map(([service, count]) => `${service} ${count}`).join(', ')}`)
    expect(requests).toBeGreaterThan(runs * 50)
    for (const service of [
      'transferCall',
      'conferenceCall',
      'parkCall',
      'directedPickupCall',
      'deflectCall',
      'reconnectCall',
      'singleStepConferenceCall',
      'dropParty',
      'openPage',
      'speakOnPage',
      'intercomCall',
      'listenIn',
      'whisper',
      'intrudeCall',
      'stopListening',
      'startRecording',
      'stopRecording',
      'putInQueue',
      'setForwarding',
      'offered',
      'setTrunkService',
      'promiseCallBack',
      'makeCallBack',
      'prompted',
      'leftForCallBack',
    ]) {
      // Of a few sequences it can't be told.
      if (runs >= 500) expect(carried.get(service), `${service} was tried in earnest`).toBeGreaterThan(5)
    }
  }, 180_000)

  it('every wait has an end: once nobody acts, people talk, an emergency number is rung, or the call is over', () => {
    fc.assert(fc.property(fc.array(wish, { minLength: 10, maxLength: 60 }), (wishes) => {
      let state = begin('rest')
      let now = start
      for (const wanted of wishes) {
        if (wanted.kind === 'wait') now += waitOf(wanted)
        const request = requestOf(state, wanted)
        if (request) state = carryOut(state, request, now).state
      }
      for (let i = 0; i < 400; i++) {
        const next = nextDeadline(state)
        if (next === null || [...state.indexes.timers.values()].every(({ name }) => name === 'opening')) break
        now = Math.max(now, next)
        state = carryOut(state, { service: 'tick' }, now).state
        checkState(state)
      }
      // Lines and queues go on opening and closing.
      expect([...state.indexes.timers.values()].filter(({ name }) => name !== 'opening')).toEqual([])
      for (const call of state.calls.values())
        if (!isConversation(call)) expect(['talking', ...(isEmergency(state, call) ? ['ringing'] : [])]).toContain(placesOf(call)[0])
    }), { numRuns: Math.ceil(runs / 4), seed, endOnFailure: true })
  }, 180_000)

  it('an event about something unknown changes nothing but the number', () => {
    const state = begin('odd')
    const after = evolve(state, { type: 'held', call: 'nowhere', device: 't2100', seq: 1, at: start })
    expect(snapshotOf(after)).toEqual({ ...snapshotOf(state), seq: 1 })
  })
})
