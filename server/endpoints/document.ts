import { type ISchema, type ObjectSchema, object } from 'yup'
import { type JsonSchema, jsonSchemaOf } from '~~/core/schema/json-schema'
import type { EndpointDescription, MayAsk } from './define'
import { t } from '../language'

/** An endpoint where it stands. */
export interface FoundEndpoint {
  method: string
  /** For example "/api/messages/{id}/read". */
  path: string
  endpoint: EndpointDescription
}

const problem: JsonSchema = {
  type: 'object',
  properties: {
    statusCode: { type: 'integer' },
    message: { type: 'string', description: 'A sentence for people: what happened, what became of the caller, what to do.' },
    data: { description: 'When an input is wrong: the field, and what to do about it. When the exchange refuses: its code and sentence.' },
  },
  required: ['statusCode', 'message'],
}

const whom = { everybody: 'For everybody.', program: 'For another program, which knows the token.', signedIn: 'For whoever is signed in.' }
function whoAsks(mayAsk: MayAsk): string {
  if (typeof mayAsk === 'string') return whom[mayAsk]
  return 'right' in mayAsk ? `For roles that have the right ${mayAsk.right}.` : `For these roles: ${mayAsk.join(', ')}.`
}

/** The API as OpenAPI 3.1, made from what checks it. */
export function openApiDocument(endpoints: readonly FoundEndpoint[]): JsonSchema {
  const named: Record<string, JsonSchema> = { problem }
  const paths: Record<string, JsonSchema> = {}
  for (const { method, path, endpoint } of endpoints) {
    const operation = { operationId: idOf(method, path), tags: [tagOf(path)], ...operationOf(method, endpoint, named) }
    paths[path] = { ...paths[path], [method]: operation }
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Estafette', version: '1', description: 'Answer calls, see who is free, pass calls on. Errors carry a sentence for people in "message".' },
    // The one that gives out this description.
    servers: [{ url: '/', description: 'The house\'s own server.' }],
    tags: [...new Set(endpoints.map(({ path }) => tagOf(path)))].sort().map(name => ({ name })),
    paths,
    components: {
      schemas: named,
      securitySchemes: { session: { type: 'apiKey', in: 'cookie', name: 'estafette', description: 'The sealed cookie that POST /api/session sets.' },
        token: { type: 'http', scheme: 'bearer', description: 'The token that the server was started with (NUXT_OCCUPANCY_TOKEN).' } },
    },
  }
}

/** "/api/messages/{id}/read" is about messages. */
const tagOf = (path: string) => path.split('/')[2] ?? 'api'

/** PUT /api/messages/{id}/read is putMessagesByIdRead. */
function idOf(method: string, path: string): string {
  const words = path.split('/').slice(2).flatMap(part => part.startsWith('{') ? ['by', part.slice(1, -1)] : part.split(/[^a-z0-9]+/i))
  return method + words.filter(Boolean).map(word => word[0]!.toUpperCase() + word.slice(1)).join('')
}

function operationOf(
  method: string,
  { summary, mayAsk, params, query, body, bodyType, answer, also }: EndpointDescription,
  named: Record<string, JsonSchema>,
): JsonSchema {
  const parameters = [...parametersOf('path', params), ...parametersOf('query', query)]
  const codes = {
    ...(mayAsk !== 'everybody' && { 401: mayAsk === 'program' ? t('answers.wrongToken') : 'Nobody is signed in.' }),
    ...(method !== 'get' && {
      403: 'The request comes from a page of another site.',
      408: 'The request did not come to its end in time.',
      413: 'The request is too long.',
      504: 'The database has not said whether that was kept: look before you ask again.',
    }),
    ...(method !== 'get' && method !== 'delete' && { 415: `The request does not say that it is ${bodyType ?? 'JSON'}.` }),
    ...(typeof mayAsk === 'object' && { 403: 'The role is not the right one.' }),
    ...((body || query || params) && { 400: 'The request can\'t be read.', 422: 'The input is wrong: data.field and data.sentence say where and what to do.' }),
    429: 'Too much was asked at once: the header retry-after says how many seconds to wait.',
    503: 'The database or the exchange does not answer; nothing was changed.',
    ...also,
  }
  return {
    summary,
    description: whoAsks(mayAsk),
    security: mayAsk === 'everybody' ? [] : [{ [mayAsk === 'program' ? 'token' : 'session']: [] }],
    ...(parameters.length > 0 && { parameters }),
    ...(body && { requestBody: { required: true, content: { [bodyType ?? 'application/json']: { schema: bodySchema(body, named) } } } }),
    responses: {
      ...(answer && { 200: { description: 'Done.', content: json(jsonSchemaOf(answer, { closed: true })) } }),
      ...Object.fromEntries(
        Object.entries(codes).map(([code, description]) => [
          code,
          Number(code) >= 400 ? { description, content: json({ $ref: '#/components/schemas/problem' }) } : { description },
        ]),
      ),
    },
  }
}

const json = (schema: JsonSchema) => ({ 'application/json': { schema } })

/** What a body may be one of stands under its own name. */
function bodySchema(body: ISchema<unknown>, named: Record<string, JsonSchema>): JsonSchema {
  const { meta } = body.describe() as { meta?: { oneOf?: Record<string, ISchema<unknown>> } }
  if (!meta?.oneOf) return jsonSchemaOf(body)
  for (const [name, schema] of Object.entries(meta.oneOf)) named[name] ??= jsonSchemaOf(schema)
  return { oneOf: Object.keys(meta.oneOf).map(name => ({ $ref: `#/components/schemas/${name}` })) }
}

function parametersOf(where: 'path' | 'query', schema: ObjectSchema<object> = object({})): JsonSchema[] {
  const { properties, required } = jsonSchemaOf(schema) as { properties: Record<string, JsonSchema>, required: string[] }
  return Object.entries(properties).map(([name, described]) => ({ name, in: where, required: where === 'path' || required.includes(name), schema: described }))
}
