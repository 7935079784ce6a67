import { sentenceOf } from '~~/core/schema/faults'
import { feedVersion } from '~~/shared/beat'
import { longestSilence, readFromBrowser, type ToBrowser } from '~~/shared/feed'
import type { SignedIn } from '~~/shared/people'
import { whoAsks } from '../accounts/session'
import type { EndpointDescription } from '../endpoints/define'
import { costs, takeShare, tooOften } from '../endpoints/shares'
import type { Listener } from '../feed/hub'
import { useRelay } from '../relay'
import { t } from '../language'

/** A browser that has this much (bytes) still to read, beside one whole picture, is let go; it comes back and is told what it missed. */
const longestBacklog = 8 * 1024 * 1024

type FeedPeer = Parameters<Parameters<typeof defineWebSocketHandler>[0]['open'] & object>[0]
interface Asks { person: SignedIn, session: string }

const listeners = new WeakMap<object, Listener>()

/** Who may come in is settled before the upgrade; the path, where it comes from and how much it may say, in `server/entry.ts`. */
const handler = defineWebSocketHandler({
  async upgrade(request) {
    const asks = await whoAsks({ request, headers: request.headers, context: {} } as unknown as Parameters<typeof whoAsks>[0]).catch(() => null)
    if (!asks) return new Response(t('answers.sessionHasEnded'), { status: 401 })
    const wait = await takeShare(asks.session, costs.any)
    if (wait !== null) return new Response(tooOften(wait), { status: 429, headers: { 'retry-after': String(wait) } })
    const context = { asks }
    // The development server's library looks for it with the request, that of `server/entry.ts` in what is given back.
    Object.assign(request.context ?? {}, context)
    return { context } as object
  },

  open(peer) {
    const { asks } = peer.context as { asks?: Asks }
    if (!asks) return peer.terminate()
    const { person, session } = asks
    const socket = peer.websocket as unknown as { bufferedAmount?: number }
    // The picture of a large company is longer than that by itself.
    let longest = 0
    const listener: Listener = {
      role: person.role,
      signIn: person.signIn,
      session,
      device: person.device,
      company: 0,
      heard: performance.now(),
      send: (text: string) => {
        longest = Math.max(longest, text.length)
        peer.send(text)
        if ((socket.bufferedAmount ?? 0) > longestBacklog + longest) peer.terminate()
      },
      end: () => peer.close(4401, 'over'),
    }
    const { hub, attendance, sessions } = useRelay()
    listeners.set(peer, listener)
    attendance.arrived(listener.device)
    hub.watch(listener, (silentFor) => {
      if (silentFor <= longestSilence) return sessions.seen(session)
      // Its connection may hang for hours, with nobody behind it.
      peer.terminate()
      leave(peer)
    })
  },

  async message(peer, message) {
    const listener = listeners.get(peer)
    if (!listener) return
    listener.heard = performance.now()
    try {
      const said = readFromBrowser(message.text())
      const wait = await takeShare(listener.session, said.type === 'hello' ? costs.dear : costs.any)
      // Whoever says too much is let go: a browser comes back by itself, after a while.
      if (wait !== null) return peer.close(4429, tooOften(wait))
      if (said.type === 'hello' && said.version !== feedVersion) {
        // A page from before there were versions knows only that it has to come again.
        return void peer.send(JSON.stringify({ type: said.version === undefined ? 'over' : 'outdated' } satisfies ToBrowser))
      }
      if (said.type === 'hello' && listeners.has(peer)) useRelay().hub.join(listener, said.since, said.company)
    }
    catch (error) {
      peer.send(JSON.stringify({ type: 'error', message: sentenceOf(t, error).slice(0, 300) }))
    }
  },

  close: leave,
  error: leave,
})

const endpoint: EndpointDescription = {
  summary: 'The live feed (WebSocket): say {"type":"hello","version":2,"since":{"epoch","seq"}}, receive a snapshot or the events missed, then every event',
  mayAsk: 'signedIn',
  also: { 101: 'Switching to WebSocket.' },
}

export default Object.assign(handler, { endpoint })

function leave(peer: FeedPeer): void {
  const listener = listeners.get(peer)
  if (!listener) return
  listeners.delete(peer)
  try {
    const { hub, attendance } = useRelay()
    hub.leave(listener)
    attendance.left(listener.device)
  }
  catch {
    // The server is stopping: its hub is gone with everybody in it.
  }
}
