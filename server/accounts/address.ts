import type { H3Event } from 'h3'

/**
 * Where a request comes from. Behind proxies the connection is the last proxy's own; each adds at the right of X-Forwarded-For whom it was asked by. Only
 * what our own proxies have added counts: all further left is the caller's word.
 */
export function addressOf(event: H3Event): string {
  const connection = event.node.req.socket.remoteAddress
  return addressBehind(useRuntimeConfig(event).trustProxy, connection, getHeader(event, 'x-forwarded-for')) ?? 'unknown'
}

/** @param proxies how many of our own stand before the server; `true` for one */
export function addressBehind(proxies: number | boolean, connection: string | undefined, forwarded: string | undefined): string | undefined {
  const trusted = Number(proxies)
  if (trusted === 0) return connection
  const named = (forwarded ?? '').split(',').map(one => one.trim()).filter(Boolean)
  return named.slice(-trusted)[0] ?? connection
}
