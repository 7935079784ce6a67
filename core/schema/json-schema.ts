import type { ISchema, SchemaDescription, SchemaObjectDescription } from 'yup'
import { inborn } from './shapes'

export type JsonSchema = Record<string, unknown>

interface Options {
  /** Objects hold nothing but what is described: for what we say ourselves. */
  closed?: boolean
}

type Described = SchemaDescription & { meta?: { record?: ISchema<unknown>, oneOf?: Record<string, ISchema<unknown>> }, innerType?: Described }

/** A Yup schema as JSON Schema (2020-12), as far as the house uses Yup: what is described is what is checked. */
export function jsonSchemaOf(schema: ISchema<unknown>, options: Options = {}): JsonSchema {
  return describe(schema.describe() as Described, options)
}

function describe(description: Described, options: Options): JsonSchema {
  const { type, meta, nullable } = description
  if (meta?.record) return { type: 'object', propertyNames: { not: { enum: inborn } }, additionalProperties: jsonSchemaOf(meta.record, options) }
  if (meta?.oneOf) return { oneOf: Object.values(meta.oneOf).map(schema => jsonSchemaOf(schema, options)) }
  if (type === 'object') return withNull(nullable, objectOf(description as unknown as SchemaObjectDescription, options))
  if (type === 'array')
    return {
      ...limits(description),
      type: nullable ? ['array', 'null'] : 'array',
      items: description.innerType ? describe(description.innerType, options) : {},
    }
  const { oneOf = [] } = description
  return { ...typed(description), ...limits(description), ...(oneOf.length > 0 && { enum: nullable && !oneOf.includes(null) ? [...oneOf, null] : oneOf }) }
}

function typed({ type, tests, nullable }: Described): JsonSchema {
  if (type === 'mixed') return {}
  const plain = tests.some(({ name }) => name === 'integer') ? 'integer' : type
  return { type: nullable ? [plain, 'null'] : plain }
}

function withNull(nullable: boolean, schema: JsonSchema): JsonSchema {
  return nullable ? { oneOf: [schema, { type: 'null' }] } : schema
}

/** Names of the limits of JSON Schema, by type and by the name of Yup's test. */
const limitNames: Record<string, Record<string, string>> = {
  string: { min: 'minLength', max: 'maxLength' },
  number: { min: 'minimum', max: 'maximum' },
  array: { min: 'minItems', max: 'maxItems' },
}

function limits({ type, tests, optional }: Described): JsonSchema {
  const named = tests.flatMap(({ name, params }): [string, unknown][] => {
    const limit = name === undefined ? undefined : limitNames[type]?.[name]
    if (limit) return [[limit, params?.[name!]]]
    // A field that may be left out may be empty as well, whatever its pattern.
    return name === 'matches' && params?.regex instanceof RegExp && !optional ? [['pattern', params.regex.source]] : []
  })
  // A text that is required is not empty.
  const filled = type === 'string' && tests.some(({ name }) => name === 'required')
  return { ...(filled && { minLength: 1 }), ...Object.fromEntries(named) }
}

function objectOf({ fields, tests }: SchemaObjectDescription, options: Options): JsonSchema {
  const entries = Object.entries(fields) as [string, Described][]
  return {
    type: 'object',
    properties: Object.fromEntries(entries.map(([name, field]) => [name, describe(field, options)])),
    required: entries.filter(([, field]) => !field.optional).map(([name]) => name),
    ...((options.closed || tests.some(({ name }) => name === 'noUnknown')) && { additionalProperties: false }),
  }
}
