import { beforeEach, describe, expect, it } from 'vitest'
import { english } from '../../../words/english'
import { heardBy, speaksOnCall } from '../../sound/heard'
import type { CallId } from '../model'
import { tellStory } from '../story'
import { sentenceOf, Tryout } from '../tryout'
import { connectionOf } from '../questions'

/** Ines (t2100) may listen; Tomas and Bryony are operators who may not; Dagny is a colleague. */
const [ines, tomas, bryony, dagny, ingrid] = ['t2100', 't2101', 't2102', 't2106', 't2107']

describe('listening in', () => {
  let on: Tryout
  let call: CallId
  let caller: string
  beforeEach(() => {
    on = new Tryout()
    call = on.inHand(tomas)
    caller = on.call(call).calling
  })
  const listen = (device = ines, to = tomas) => on.ask({ service: 'listenIn', device, call, to })
  const heard = (ear: string) => heardBy(on.state, ear).voices

  it('hears both, and is heard by neither; nothing changes in the call but its story', () => {
    const before = on.call(call)
    expect(listen()).toBeUndefined()
    expect([heard(ines).sort(), heard(tomas), heard(caller)]).toEqual([[caller, tomas].sort(), [caller], [tomas]])
    expect({ ...on.call(call), story: before.story }).toEqual(before)
    expect(speaksOnCall(on.state, ines)).toBe(false)
    expect(tellStory(english, on.call(call).story, device => device).at(-1)?.text).toBe('t2100 listened in, at t2101')
  })

  it('is for whoever has the right, while their console is open and their telephone connected', () => {
    expect(sentenceOf(listen(bryony))).toMatch(/^You may not listen to calls/)
    expect(listen(dagny)?.code).toBe('notAllowed')
    on.change('telephones', bryony, { mayListen: true })
    expect(listen(bryony)).toBeUndefined()
    on.must({ service: 'setAgentState', device: bryony, attended: false })
    on.wait(60_000)
    expect(on.state.listenings.size).toBe(0)
    on.change('telephones', ines, { inService: false })
    expect(listen()?.code).toBe('notAllowed')
  })

  it('ends at once when the right is taken away', () => {
    listen()
    on.change('telephones', ines, { mayListen: false })
    expect([on.state.listenings.size, heard(ines)]).toEqual([0, []])
    expect(on.call(call).story.at(-1)).toMatchObject({ type: 'listeningEnded', device: ines })
  })

  it('needs a colleague who talks there, and not one\'s own call or an emergency call', () => {
    expect(listen(ines, dagny)?.code).toBe('notPossibleNow')
    expect(listen(ines, caller)?.code).toBe('notPossibleNow')
    on.change('telephones', tomas, { mayListen: true })
    expect(sentenceOf(listen(tomas, tomas))).toBe('You are in that call already.')
    on.must({ service: 'holdCall', device: tomas, call })
    expect(listen()?.code).toBe('notPossibleNow')
    const emergency = on.begins(() => on.must({ service: 'makeCall', device: dagny, number: '999' }))
    const other = on.call(emergency).connections.find(({ device }) => device !== dagny)!.device
    on.must({ service: 'answerCall', device: other, call: emergency })
    expect(on.ask({ service: 'listenIn', device: ines, call: emergency, to: dagny })?.code).toBe('notPossibleNow')
  })

  it('puts the own call on hold, and closes the own microphone', () => {
    const own = on.inHand(ines)
    listen()
    expect(connectionOf(on.call(own), ines)?.state).toBe('held')
    on.must({ service: 'stopListening', device: ines })
    on.must({ service: 'openPage', device: ines, to: 'zone:hall', rank: 'ordinary' })
    listen()
    expect([on.state.pages.size, on.state.listenings.size]).toEqual([0, 1])
  })

  it('hears nothing while the colleague has the caller on hold, and goes on afterwards', () => {
    listen()
    on.must({ service: 'holdCall', device: tomas, call })
    expect([heard(ines), heardBy(on.state, ines).music]).toEqual([[], false])
    on.must({ service: 'retrieveCall', device: tomas, call })
    expect(heard(ines)).toHaveLength(2)
    on.must({ service: 'setMicrophoneMute', device: tomas, call, party: tomas, on: true })
    expect(heard(ines)).toEqual([caller])
  })

  it.each([
    ['the colleague passes the call on', () => on.must({ service: 'singleStepTransferCall', device: tomas, call, to: ingrid })],
    ['the caller hangs up', () => void on.hangUp(call)],
    ['whoever listens answers somebody', () => void on.inHand(ines)],
    ['whoever listens speaks on a page', () => on.must({ service: 'openPage', device: ines, to: 'zone:hall', rank: 'ordinary' })],
    ['whoever listens has heard enough', () => on.must({ service: 'stopListening', device: ines })],
  ])('is over when %s', (_what, happens) => {
    listen()
    happens()
    expect(on.state.listenings.size).toBe(0)
    expect(on.ask({ service: 'stopListening', device: ines })?.code).toBe('notPossibleNow')
  })

  it('is of one call at a time', () => {
    const other = on.inHand(bryony)
    listen()
    on.must({ service: 'listenIn', device: ines, call: other, to: bryony })
    expect([...on.state.listenings.values()]).toMatchObject([{ by: ines, to: bryony, call: other, whispers: false }])
    expect(on.call(call).story.at(-1)?.type).toBe('listeningEnded')
  })

  it('is over when the call becomes part of another, in whose story it does not stand', () => {
    listen()
    const second = on.begins(() => on.must({ service: 'consultationCall', device: tomas, call, number: '2106' }))
    on.must({ service: 'answerCall', device: dagny, call: second })
    on.must({ service: 'conferenceCall', device: tomas, call: second, other: call })
    expect([on.state.listenings.size, heard(ines)]).toEqual([0, []])
    on.must({ service: 'listenIn', device: ines, call: second, to: tomas })
    expect(heard(ines).sort()).toEqual([caller, dagny, tomas].sort())
  })

  it('is told by a tone to everybody in the call, or not, as the house says', () => {
    const tones = () => [tomas, caller, ines].map(ear => heardBy(on.state, ear).announcement)
    listen()
    expect(tones()).toEqual(['notice', 'notice', null])
    const { settings } = on.state.company
    on.configure({ part: 'settings', value: { ...settings, listeningTone: false } })
    expect(tones()).toEqual([null, null, null])
  })

  describe('whispering', () => {
    const whisper = (to = true) => on.ask({ service: 'whisper', device: ines, call: on.state.listenings.get(ines)?.call ?? call, on: to })
    const whispers = (ear: string) => heardBy(on.state, ear).whispers

    it('is heard by the colleague alone, also with others who listen', () => {
      on.change('telephones', bryony, { mayListen: true })
      listen()
      listen(bryony)
      expect(whisper()).toBeUndefined()
      expect([whispers(tomas), whispers(caller), whispers(bryony), heard(bryony).includes(ines)]).toEqual([[ines], [], [], false])
      expect([speaksOnCall(on.state, ines), speaksOnCall(on.state, bryony)]).toEqual([true, false])
      whisper(false)
      expect([whispers(tomas), speaksOnCall(on.state, ines)]).toEqual([[], false])
      expect(on.call(call).story.slice(-2).map(({ type }) => type)).toEqual(['whisperBegun', 'whisperEnded'])
    })

    it('is refused between two of ours, and ends when a second one comes into the call', () => {
      const inside = on.begins(() => on.must({ service: 'makeCall', device: dagny, number: '2107' }))
      on.must({ service: 'answerCall', device: ingrid, call: inside })
      on.must({ service: 'listenIn', device: ines, call: inside, to: dagny })
      expect(sentenceOf(whisper())).toMatch(/could hear a whisper/)
      expect(on.state.listenings.get(ines)).toMatchObject({ to: dagny, whispers: false })
      listen()
      whisper()
      on.must({ service: 'singleStepConferenceCall', device: tomas, call, to: '2108' })
      expect(on.state.listenings.get(ines)).toMatchObject({ to: tomas, whispers: false })
      expect(whispers(tomas)).toEqual([])
    })

    it('is not heard while the colleague talks on another call, where somebody of ours may sit beside them', () => {
      listen()
      whisper()
      const asked = on.consult(tomas, call, '2106')
      on.must({ service: 'answerCall', device: dagny, call: asked })
      expect([whispers(tomas), whispers(dagny), heard(tomas)]).toEqual([[], [], [dagny]])
      on.must({ service: 'reconnectCall', device: tomas, call: asked })
      expect(whispers(tomas)).toEqual([ines])
    })

    it('is for who listens', () => {
      expect(whisper()?.code).toBe('notYourCall')
    })
  })

  describe('joining', () => {
    const join = () => on.ask({ service: 'intrudeCall', device: ines, call })

    it('makes a conference that the colleague leads: all hear each other', () => {
      listen()
      expect(join()).toBeUndefined()
      expect([heard(ines).sort(), heard(tomas).sort(), heard(caller).sort()])
        .toEqual([[caller, tomas].sort(), [caller, ines].sort(), [ines, tomas].sort()])
      expect([on.call(call).conference?.by, on.state.listenings.size]).toEqual([tomas, 0])
      expect(on.call(call).story.slice(-2).map(({ type }) => type)).toEqual(['listeningEnded', 'intruded'])
      on.must({ service: 'clearConnection', device: tomas, call })
      expect(heard(ines)).toEqual([caller])
    })

    it('is refused without listening, while they are on hold, and where no more can be', () => {
      expect(join()?.code).toBe('notYourCall')
      listen()
      on.must({ service: 'holdCall', device: tomas, call })
      expect(join()?.code).toBe('notPossibleNow')
      on.must({ service: 'retrieveCall', device: tomas, call })
      on.change('telephones', ines, { capacity: 1 })
      const own = on.begins(() => on.must({ service: 'makeCall', device: ines, number: '2106' }))
      on.must({ service: 'answerCall', device: dagny, call: own })
      on.must({ service: 'holdCall', device: ines, call: own })
      listen()
      expect(join()?.code).toBe('tooManyCalls')
      expect([...on.state.listenings.keys()]).toEqual([ines])
    })

    it('is refused when the conference is full', () => {
      const { settings } = on.state.company
      on.configure({ part: 'settings', value: { ...settings, conferenceSize: 3 } })
      on.must({ service: 'singleStepConferenceCall', device: tomas, call, to: '2108' })
      on.must({ service: 'answerCall', device: 't2108', call })
      listen()
      expect(join()?.code).toBe('conferenceFull')
    })
  })
})
