import { join } from 'node:path'
import { processor, residentMb } from './bench-chain.mjs'
import { prepareDatabase } from './database.mjs'
import { talkTo } from './link.mjs'
import { root } from './processes.mjs'
import { createStack } from './stack.mjs'

/**
 * @typedef {object} End
 * @property {number} said when its last click was said, by `performance.now()`; 0 before the first
 * @property {number} lost the share of its packets that get lost on the way
 * @property {(at: number) => void} hear hears a click
 * @property {(isClick: boolean, isTurn: boolean) => void} say says a frame
 * @property {() => Promise<void>} close
 */

/** From mouth to ear: people who talk by WebRTC through the sound process, each with a click a second that is waited for at the other side. */

const seconds = 20
const frameMs = 20
const [silence, click] = [Buffer.alloc(160, 0xFF), Buffer.alloc(160, 0x00)]
/** Milliseconds. */
const connectWithin = 3_000
/** A click is so many frames long. */
const clickFrames = 2

/**
 * Delay from mouth to ear in milliseconds, share of a processor of the sound process (1: one processor), its memory.
 * @param {{ superuserUrl: string }} postgres
 * @param {{ calls: number, lost: number }} options `lost`: the share of packets that get lost on the way
 */
export async function mouthToEar(postgres, { calls, lost }) {
  const databaseUrl = await prepareDatabase(postgres.superuserUrl, `bench_sound_${calls}_${lost * 100}`)
  const stack = createStack({ databaseUrl, exchangeArgs: ['--pace', 'still'], output: 'ignore', sound: join(root, '.output/sound/main.mjs') })
  await stack.start()
  const { ask, close } = await talkTo(stack)
  /** @type {number[]} */
  const delays = []
  /** @type {End[]} */
  const ends = []
  for (let first = 2_110; ends.length < 2 * calls; first += 2) {
    const [from, to] = [`t${first}`, `t${first + 1}`]
    const { call } = await ask({ service: 'makeCall', device: from, number: to })
    // A desk without a telephone.
    if (!call) continue
    await ask({ service: 'answerCall', device: to, call })
    for (const device of [from, to]) ends.push(await end(stack, device))
  }
  const used = processor(stack.sound?.pid)
  const begin = performance.now()
  let frames = 0
  const talking = setInterval(() => {
    for (const due = Math.floor((performance.now() - begin) / frameMs); frames < due; frames++) {
      // Each side has its turn, so that nobody's click is taken for another's.
      ends.forEach((one, index) => one.say((frames + 7 * index) % 50 < clickFrames, index % 2 === Math.floor(frames / 50) % 2))
    }
  }, 5)
  for (const [index, one] of ends.entries()) {
    one.lost = lost
    one.hear = (at) => {
      const { said } = ends[index ^ 1] ?? one
      if (said > 0) delays.push(at - said)
    }
  }
  await new Promise(resolve => setTimeout(resolve, seconds * 1_000))
  clearInterval(talking)
  const elapsed = (performance.now() - begin) / 1_000
  const share = (processor(stack.sound?.pid) - used) / elapsed
  const soundMb = residentMb(stack.sound?.pid)
  await Promise.all(ends.map(one => one.close()))
  close()
  await stack.stop()
  delays.sort((a, b) => a - b)
  /** @param {number} part */
  const at = part => Math.round(delays[Math.min(delays.length - 1, Math.floor(delays.length * part))] ?? NaN)
  return { calls, lost, clicks: delays.length, medianMs: at(0.5), p95Ms: at(0.95), worstMs: at(1), soundShare: Number(share.toFixed(2)), soundMb }
}

/**
 * Somebody at a telephone, as a browser would be.
 * @param {import('./stack.mjs').Stack} stack
 * @param {string} device
 * @returns {Promise<End>}
 */
async function end(stack, device) {
  const { MediaStreamTrack, RTCPeerConnection, RTCRtpCodecParameters, RtpHeader, RtpPacket } = await import('werift')
  const pcmu = new RTCRtpCodecParameters({ mimeType: 'audio/PCMU', clockRate: 8_000, channels: 1, payloadType: 0 })
  const peer = new RTCPeerConnection({ codecs: { audio: [pcmu], video: [] }, iceServers: [], iceAdditionalHostAddresses: ['127.0.0.1'] })
  const track = new MediaStreamTrack({ kind: 'audio' })
  let heard = false
  /** @type {End} */
  const one = {
    said: 0,
    lost: 0,
    hear: () => {},
    say(isClick, isTurn) {
      const clicks = isClick && isTurn
      sequence = (sequence + 1) & 0xFFFF
      timestamp = (timestamp + 160) >>> 0
      if (clicks && !clicked) one.said = performance.now()
      clicked = clicks
      if (Math.random() < one.lost) return
      track.writeRtp(new RtpPacket(new RtpHeader({ payloadType: 0, sequenceNumber: sequence, timestamp }), clicks ? click : silence))
    },
    close: () => peer.close(),
  }
  let [sequence, timestamp, clicked] = [0, 0, false]
  peer.addTransceiver(track, { direction: 'sendrecv' }).onTrack.subscribe(remote => remote.onReceiveRtp.subscribe(({ payload }) => {
    const isClick = payload.some(value => (value & 0x7F) < 0x20)
    if (isClick && !heard) one.hear(performance.now())
    heard = isClick
  }))
  for (const { connection } of peer.iceTransports) connection.stunServer = undefined
  await peer.setLocalDescription(await peer.createOffer())
  const answer = await fetch(`http://127.0.0.1:${stack.soundPort}/ears`, {
    method: 'POST',
    headers: { authorization: `Bearer ${stack.token}` },
    body: JSON.stringify({ device, session: device, sdp: peer.localDescription?.sdp }),
  })
  const { sdp } = await answer.json()
  const connected = new Promise(resolve => peer.connectionStateChange.subscribe(state => state === 'connected' && resolve(true)))
  await peer.setRemoteDescription({ type: 'answer', sdp })
  if (await Promise.race([connected, new Promise(resolve => setTimeout(resolve, connectWithin, false))])) return one
  // As a browser would: it tries again.
  await peer.close()
  return await end(stack, device)
}
