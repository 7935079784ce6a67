import { randomUUID } from 'node:crypto'
import {
  type IncomingInviteRequest, type IncomingRequestMessage, type LoggerFactory, URI, UserAgentCore, type UserAgentCoreConfiguration,
} from 'sip.js/lib/core/index.js'
import type { SoundDoor } from './sound-door'
import type { Protocol, Wire } from './wire'

/** The core of sip.js (transactions and dialogs), as an exchange needs it. */

/** What everybody stands on who speaks SIP here. */
export interface Common {
  wire: Wire
  sound: SoundDoor
  /** Of ours, that others reach. */
  address: string
  loggerFactory: LoggerFactory
  log: (text: string) => void
}

export interface AgentOptions {
  /** Who we are to the other side. */
  user: string
  protocol: Protocol
  loggerFactory: LoggerFactory
  send: (text: string) => void
  invited: (request: IncomingInviteRequest, core: UserAgentCore) => void
  /** How we prove who we are. */
  authenticationFactory?: UserAgentCoreConfiguration['authenticationFactory']
}

export function newAgent({ user, protocol, loggerFactory, send, invited, authenticationFactory = () => undefined }: AgentOptions): UserAgentCore {
  const contact = new URI('sip', user, 'localhost', 5060)
  const core: UserAgentCore = new UserAgentCore({
    // An exchange answers for all of its numbers: it is asked for the number of each request before that reaches the core.
    aor: new URI('sip', user, 'localhost'),
    contact: { pubGruu: undefined, tempGruu: undefined, uri: contact, toString: () => `<${contact.toRaw()}>` },
    displayName: '', loggerFactory, hackViaTcp: false, routeSet: [], sipjsId: randomUUID().slice(0, 5), supportedOptionTags: ['replaces', 'timer'],
    supportedOptionTagsResponse: ['replaces', 'timer'], userAgentHeaderFieldValue: 'Estafette', viaForceRport: true, viaHost: 'localhost',
    authenticationFactory,
    transportAccessor: () => ({
      protocol: protocol.toUpperCase(),
      send: (text: string) => {
        send(text)
        return Promise.resolve()
      },
    }),
  }, {
    onInvite: request => invited(request, core),
    onRefer: request => request.reject({ statusCode: 403 }),
  })
  return core
}

/** Where it is, as the other side is told. */
export function placeAgent({ configuration }: UserAgentCore, protocol: Protocol, address: string, port: number): void {
  const at = protocol === 'tls' ? port + 1 : port
  const { uri } = configuration.contact;
  (configuration as { viaHost: string }).viaHost = `${address}:${at}`
  uri.host = address
  uri.port = at
  if (protocol !== 'udp') uri.setParam('transport', protocol)
}

/** A request is for whoever it names. */
export function pass(core: UserAgentCore, message: IncomingRequestMessage): void {
  if (message.ruri) core.configuration.aor.user = message.ruri.user
  core.receiveIncomingRequestFromTransport(message)
}
