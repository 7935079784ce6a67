import { boolean, object, type ObjectSchema } from 'yup'

/** The answer to what is done or refused and has nothing more to tell: `{ "left": true }`. */
export function done<K extends string>(what: K) {
  return object({ [what]: boolean().oneOf([true]).required() }) as unknown as ObjectSchema<Record<K, boolean>>
}
