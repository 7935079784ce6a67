import { object, string } from 'yup'

export const roles = ['operator', 'supervisor', 'administrator', 'staff'] as const
export type Role = typeof roles[number]

/** Who is signed in, as far as the interface may know. */
export interface SignedIn {
  signIn: string
  name: string
  role: Role
  /** The telephone that is theirs, when they have one. */
  extension: string | null
}

export const credentials = object({
  signIn: string().strict().trim('Sign-in name must not begin or end with a space.').max(60).required().label('Sign-in name'),
  password: string().strict().max(200).required().label('Password'),
})
