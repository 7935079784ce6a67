import { Ajv2020 } from 'ajv/dist/2020.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { array, boolean, type ISchema, number, object, type Schema, string } from 'yup'
import { jsonSchemaOf } from './json-schema'
import { oneOfBy, recordOf } from './shapes'

const ajv = new Ajv2020({ strict: false })

const schemas: Record<string, ISchema<unknown>> = {
  text: string().strict().max(3).required().label('text'),
  pattern: string().strict().matches(/^[a-z]*$/).required(),
  whole: number().strict().integer().min(-2).max(5).required(),
  truth: boolean().strict().required(),
  nullable: string().strict().nullable().defined(),
  choice: string().strict().oneOf(['a', 'b']).required(),
  list: array(number().strict().required()).strict().max(2).required(),
  object: object({ a: string().strict().required(), b: number().strict().optional() }).strict().required(),
  closed: object({ a: string().strict().optional() }).noUnknown().strict().required(),
  record: recordOf(number().strict().required()),
  union: oneOfBy<object>('kind', {
    one: object({ kind: string().strict().oneOf(['one']).required(), a: string().strict().required() }).strict(),
    two: object({ kind: string().strict().oneOf(['two']).required(), a: boolean().strict().required() }).strict(),
  }),
}

const values = fc.oneof(
  fc.anything(),
  fc.constantFrom<unknown>('', 'a', 'b', 'abcd', 'one', 0, 5, 6, -3, 1.5, null, true, [], [1, 2, 3], {}),
  fc.record(
    { kind: fc.constantFrom('one', 'two', 'three'), a: fc.oneof(fc.string(), fc.boolean()), b: fc.oneof(fc.integer(), fc.string()) },
    { requiredKeys: [] },
  ),
)

describe.each(Object.entries(schemas))('JSON Schema of %s', (name, schema) => {
  it('takes whatever the schema takes, and nothing else that JSON can say', () => {
    const check = ajv.compile(jsonSchemaOf(schema))
    fc.assert(fc.property(values, (value) => {
      const json: unknown = JSON.parse(JSON.stringify(value) ?? 'null')
      const described = check(json)
      const taken = (schema as Schema).isValidSync(json)
      expect(described, `${name}: ${JSON.stringify(json)}`).toBe(taken)
    }), { numRuns: 500 })
  })
})

it('what we say ourselves is described as nothing more than it is', () => {
  const schema = object({ a: object({ b: string().required() }).required(), list: array(object({ c: number().required() })).required() })
  const check = ajv.compile(jsonSchemaOf(schema, { closed: true }))
  expect(check({ a: { b: 'x' }, list: [{ c: 1 }] })).toBe(true)
  expect(check({ a: { b: 'x', secret: 1 }, list: [] })).toBe(false)
  expect(check({ a: { b: 'x' }, list: [{ c: 1, secret: 1 }] })).toBe(false)
})
