import { readFromBrowser } from '~~/shared/feed'
import { useRelay } from '../relay'
import type { Listener } from '../feed/hub'

/** A browser that reads this much (bytes) too slowly is let go; it comes back and is told what it missed. */
const longestBacklog = 8 * 1024 * 1024

type FeedPeer = Parameters<Parameters<typeof defineWebSocketHandler>[0]['open'] & object>[0]

const listeners = new WeakMap<object, Listener>()

export default defineWebSocketHandler({
  async upgrade(request) {
    const origin = request.headers.get('origin')
    if (origin && new URL(origin).host !== request.headers.get('host')) return new Response('The feed is for this console only.', { status: 403 })
    try {
      await requireUserSession({ request, headers: request.headers, context: {} })
    }
    catch {
      return new Response('You are not signed in, or your session has ended.', { status: 401 })
    }
  },

  async message(peer, message) {
    try {
      const { since } = readFromBrowser(message.text())
      useRelay().hub.join(await listenerOf(peer), since)
    }
    catch (error) {
      peer.send(JSON.stringify({ type: 'error', message: (error as Error).message.slice(0, 300) }))
    }
  },

  close: leave,
  error: leave,
})

function leave(peer: object): void {
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

async function listenerOf(peer: FeedPeer): Promise<Listener> {
  const known = listeners.get(peer)
  if (known) return known
  const { user } = await requireUserSession(peer)
  const socket = peer.websocket as unknown as { bufferedAmount?: number }
  const listener = {
    role: user.role,
    signIn: user.signIn,
    device: user.extension,
    send: (text: string) => {
      peer.send(text)
      if ((socket.bufferedAmount ?? 0) > longestBacklog) peer.terminate()
    },
  }
  listeners.set(peer, listener)
  useRelay().attendance.arrived(listener.device)
  return listener
}
