/** What somebody who signs in may be. */
export const roles = ['operator', 'supervisor', 'administrator', 'staff'] as const
export type Role = typeof roles[number]

/** Only who answers for the company, or for how it is done, sees who calls and what they say; everybody sees who is on the telephone. */
export function seesCallers(role: Role): boolean {
  return role !== 'staff'
}
