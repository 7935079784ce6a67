/** Of whom the service level is counted (`service-level.ts`). */
export const levelKinds = ['offered', 'answered'] as const
