import { alaw, mulaw } from 'alawmulaw'
import { type MediaStreamTrack, MediaStreamTrack as Track, RTCPeerConnection, RTCRtpCodecParameters, RtpHeader, RtpPacket } from 'werift'
import { frameSamples } from '../core/sound/frames'
import { JitterBuffer } from './jitter'

/** A browser that does not get through in this time (milliseconds) is not waited for. */
const connectWithin = 15_000
/** Payload types of G.711 (RFC 3551), µ-law and A-law. */
const [pcmu, pcma] = [0, 8]

export type Ports = [from: number, to: number]

/** Only what every telephone has too: what is heard here can be passed on to any of them without being made again. */
const codecs = [
  new RTCRtpCodecParameters({ mimeType: 'audio/PCMU', clockRate: 8_000, channels: 1, payloadType: pcmu }),
  new RTCRtpCodecParameters({ mimeType: 'audio/PCMA', clockRate: 8_000, channels: 1, payloadType: pcma }),
]

/** One browser's end of a connection (WebRTC): what it says comes frame by frame, and so goes what it hears. */
export class BrowserEnd {
  private readonly peer: RTCPeerConnection
  private readonly track: MediaStreamTrack = new Track({ kind: 'audio' })
  private readonly heard = new JitterBuffer()
  private sequence = Math.floor(Math.random() * 65_536)
  private timestamp = Math.floor(Math.random() * 2 ** 32)
  private readonly late: NodeJS.Timeout
  private over = false

  /**
   * @param ports of UDP that may be used, from and to; null: any
   * @param onOver called once, when the browser has gone or could not be reached
   */
  constructor(ports: Ports | null, private readonly onOver: () => void) {
    this.peer = new RTCPeerConnection({
      codecs: { audio: codecs, video: [] }, iceServers: [], iceAdditionalHostAddresses: ['127.0.0.1'], icePortRange: ports ?? undefined,
    })
    const transceiver = this.peer.addTransceiver(this.track, { direction: 'sendrecv' })
    transceiver.onTrack.subscribe(track => track.onReceiveRtp.subscribe(packet => this.take(packet)))
    this.peer.connectionStateChange.subscribe((state) => {
      if (state === 'connected') clearTimeout(this.late)
      if (state === 'failed' || state === 'closed' || state === 'disconnected') this.close()
    })
    this.late = setTimeout(() => this.close(), connectWithin)
  }

  /**
   * @param offer a description of a session (SDP)
   * @returns the answer to it, with every address at which we can be reached
   * @throws when it can't be read, or offers nothing that we can do
   */
  async answer(offer: string): Promise<string> {
    await this.peer.setRemoteDescription({ type: 'offer', sdp: offer })
    // The library would ask a server of others, far away, for our own address.
    for (const { connection } of this.peer.iceTransports) connection.stunServer = undefined
    await this.peer.setLocalDescription(await this.peer.createAnswer())
    const { sdp } = this.peer.localDescription!
    if (!/^m=audio [1-9]/m.test(sdp)) throw new Error('it offers no sound')
    return sdp
  }

  /** What it says next; null while it says nothing. */
  next(): Int16Array | null {
    return this.heard.take()
  }

  hear(frame: Int16Array): void {
    this.sequence = (this.sequence + 1) & 0xFFFF
    this.timestamp = (this.timestamp + frameSamples) >>> 0
    const header = new RtpHeader({ payloadType: pcmu, sequenceNumber: this.sequence, timestamp: this.timestamp })
    this.track.writeRtp(new RtpPacket(header, Buffer.from(mulaw.encode(frame))))
  }

  close(): void {
    if (this.over) return
    this.over = true
    clearTimeout(this.late)
    this.onOver()
    void this.peer.close().catch(() => {})
  }

  private take({ header, payload }: RtpPacket): void {
    const law = header.payloadType === pcmu ? mulaw : header.payloadType === pcma ? alaw : null
    if (law) this.heard.put(header.sequenceNumber, law.decode(payload))
  }
}
