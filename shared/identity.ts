import { saying } from '../core/schema/wording'
import { array, boolean, type InferType, number, object, string } from 'yup'
import { type Role, roles } from './roles'

/** Sign-in by the house's own identity provider (OpenID Connect Core 1.0). */
const claim = (label: string) => string().strict().matches(/^[\w:./-]{1,80}$/, saying('input.claim'))
  .required().label(label)

export const identityWanted = object({
  /** What people know it as: it stands on the button. */
  name: string().strict().trim().min(1).max(40).required().label('name'),
  issuer: string().strict().max(300).matches(/^https?:\/\/[^\s?#]+$/i, saying('input.issuer')).required().label('issuer'),
  clientId: string().strict().min(1).max(200).required().label('clientId'),
  /** Empty: the one that is kept, for the same issuer and client. */
  secret: string().strict().max(300).defined().label('secret'),
  scopes: string().strict().matches(/^[\x21-\x7e]+( [\x21-\x7e]+)*$/, saying('input.scopes')).max(300).required().label('scopes'),
  /** Where people reach Estafette: the provider sends them back there. */
  address: string().strict().max(200).matches(/^https?:\/\/[\w.:[\]-]+$/i, saying('input.ownAddress')).required().label('address'),
  /** Which of the claims is the name that people sign in under here. */
  signIn: claim('signIn'),
  /** Which claim says what groups somebody is in. */
  groups: claim('groups'),
  /** The first that fits decides. */
  roles: array(object({
    group: string().strict().trim().min(1).max(200).required().label('group'),
    role: string().oneOf(roles).required().label('role'),
  }).noUnknown().required()).max(50).required().label('roles'),
  /** Of whom no group says a role; null: they keep the one that they have, and nobody new comes in. */
  otherwise: string().oneOf(roles).nullable().defined().label('otherwise'),
  /** Whoever has no account gets one when they first sign in. */
  makes: boolean().strict().required().label('makes'),
}).noUnknown().required()
export type IdentityWanted = InferType<typeof identityWanted>

/** The secret is told to nobody. */
export const identitySettings = object({
  settings: identityWanted.omit(['secret']).nullable().defined(),
  /** When it last answered, in milliseconds since 1970; null: not yet. */
  readAt: number().nullable().defined(),
  failure: string().nullable().defined(),
})
export type IdentitySettings = InferType<typeof identitySettings>

/** What whoever wants to sign in may know: what it is called; null: there is none. */
export const identityOffered = object({ name: string().nullable().defined() })

export const identityBegun = object({ address: string().defined() })

/** What the provider has sent a browser back with. */
export const identityReturn = object({ query: string().strict().max(8_000).defined().label('query') }).noUnknown().required()

/** OpenID Connect Back-Channel Logout 1.0, 2.5. */
export const identityEnded = object({ logout_token: string().strict().max(8_000).required().label('logout_token') }).required()

/**
 * The role that somebody's groups give them; undefined: none does.
 * @param said the claim as the provider says it: one group, or several
 */
export function roleOf(said: unknown, given: readonly { group: string, role: Role }[]): Role | undefined {
  const groups = new Set(Array.isArray(said) ? said : [said])
  return given.find(({ group }) => groups.has(group))?.role
}
