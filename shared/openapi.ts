import type { Schema, SchemaDescription, SchemaObjectDescription } from 'yup'
import { accountChange, credentials, passwordChange } from './people'
import { logQuery, parkingQuery } from './log'
import { messagesQuery, newMessage } from './messages'
import { handsetServices, personServices, services } from './requests'

type Json = Record<string, unknown>

/** A Yup schema as JSON Schema, as far as the API uses it: what is described is what is checked. */
export function jsonSchemaOf(schema: Schema): Json {
  return describe(schema.describe())
}

function describe(description: Schema extends never ? never : ReturnType<Schema['describe']>): Json {
  const { type, oneOf = [], tests = [], nullable } = description as SchemaDescription
  const limits = Object.fromEntries(tests.flatMap(({ name, params }) => name === 'max' || name === 'min' ? [[limitName(type, name), params?.[name]]] : []))
  const integer = tests.some(test => test.name === 'integer')
  if (type === 'object') return describeObject(description as SchemaObjectDescription)
  const base: Json = type === 'mixed' ? {} : { type: nullable ? [integer ? 'integer' : type, 'null'] : integer ? 'integer' : type }
  return { ...base, ...limits, ...(oneOf.length > 0 && { enum: oneOf }) }
}

function limitName(type: string, name: 'min' | 'max'): string {
  return type === 'string' ? `${name}Length` : `${name}imum`
}

function describeObject({ fields }: SchemaObjectDescription): Json {
  const entries = Object.entries(fields) as [string, SchemaDescription][]
  return {
    type: 'object',
    properties: Object.fromEntries(entries.map(([name, field]) => [name, describe(field)])),
    required: entries.filter(([, field]) => !field.optional).map(([name]) => name),
  }
}

function requestSchema(service: keyof typeof services): Json {
  const { properties, required } = jsonSchemaOf(services[service]) as { properties: Json, required: string[] }
  return {
    type: 'object',
    properties: { id: { type: 'string', minLength: 8, maxLength: 80 }, service: { const: service }, ...properties },
    required: ['id', 'service', ...required],
  }
}

const answer = (description: string) => ({ description })
const failures = {
  401: answer('Nobody is signed in.'),
  403: answer('The role or the telephone is not the right one.'),
  422: answer('The input is wrong: data.field and data.sentence say where and what to do.'),
  503: answer('Database or exchange do not answer; nothing was changed.'),
  504: answer('The exchange was asked and has not answered: GET /api/requests/{id} tells what became of it.'),
}
const body = (schema: Json) => ({ required: true, content: { 'application/json': { schema } } })

/** The API as OpenAPI 3.1. */
export function openApiDocument(): Json {
  const parameters = (schema: Schema) => Object.entries((jsonSchemaOf(schema) as { properties: Json }).properties).map(([name, described]) => ({ name, in: 'query', schema: described }))
  const oneOfServices = (names: readonly (keyof typeof services)[]) => body({ oneOf: names.map(service => ({ $ref: `#/components/schemas/${service}` })) })
  const inPath = (name: string) => ({ name, in: 'path', required: true, schema: { type: 'string' } })
  const noSuch = { 404: answer('There is none such.') }
  const refused = { 409: answer('Refused by the exchange: data.code and message say why and what became of the caller.') }
  return {
    openapi: '3.1.0',
    info: { title: 'Estafette', version: '1', description: 'Answer calls, see who is free, pass calls on. Errors carry a sentence for people in "message".' },
    paths: {
      '/api/session': {
        get: { summary: 'Who is signed in, or null', responses: { 200: answer('The person or null.') } },
        post: { summary: 'Sign in', requestBody: body(jsonSchemaOf(credentials)), responses: { 200: answer('Signed in; the sealed cookie is set.'), ...failures, 429: answer('Too many failed attempts; the header retry-after says how many seconds to wait.') } },
        delete: { summary: 'Sign out', responses: { 200: answer('Signed out.') } },
      },
      '/api/company': { get: { summary: 'Who works here, and everything that calls can reach', responses: { 200: answer('The company\'s configuration.'), ...failures } } },
      '/api/requests': {
        post: {
          summary: 'Ask the exchange for a service with one\'s own telephone; an id repeated is carried out once',
          requestBody: oneOfServices(personServices),
          responses: { 200: answer('Carried out; seq is the last event number.'), ...failures, ...refused },
        },
      },
      '/api/requests/{id}': {
        get: { summary: 'What became of a request of one\'s own whose answer never came', parameters: [inPath('id')], responses: { 200: answer('carriedOut, and sentence when it was refused. What was not carried out by then never will be.'), ...failures } },
      },
      '/api/sessions': { get: { summary: 'Where one is signed in', responses: { 200: answer('Browsers, the latest used first.'), ...failures } } },
      '/api/sessions/{id}': { delete: { summary: 'Sign out one of one\'s own browsers', parameters: [inPath('id')], responses: { 200: answer('Ended, and its feed closed.'), ...failures, ...noSuch } } },
      '/api/password': { post: { summary: 'A new password for oneself; every other browser is signed out', requestBody: body(jsonSchemaOf(passwordChange)), responses: { 200: answer('Changed.'), ...failures } } },
      '/api/accounts': { get: { summary: 'Everybody who may sign in (administrators)', responses: { 200: answer('Accounts.'), ...failures } } },
      '/api/accounts/{signIn}': {
        patch: { summary: 'Change a role or shut an account (administrators): in force at once', parameters: [inPath('signIn')], requestBody: body(jsonSchemaOf(accountChange)), responses: { 200: answer('Changed.'), ...failures, ...noSuch, 409: answer('That is the last administrator.') } },
      },
      '/api/accounts/{signIn}/password': { post: { summary: 'A new password for somebody (administrators), shown once', parameters: [inPath('signIn')], responses: { 200: answer('password.'), ...failures, ...noSuch } } },
      '/api/upkeep': { get: { summary: 'How database, exchange and journal are, and what was set aside (administrators)', responses: { 200: answer('The state.'), ...failures } } },
      '/api/handset': {
        post: {
          summary: 'A stand-in handset: one\'s own telephone, and in the demo any other and callers outside',
          requestBody: oneOfServices(handsetServices),
          responses: { 200: answer('Carried out.'), ...failures, ...refused },
        },
      },
      '/api/messages': {
        get: { summary: 'Messages for oneself (and, for operators, the lines), and those one has taken down', parameters: parameters(messagesQuery), responses: { 200: answer('received and written.'), ...failures } },
        post: { summary: 'Take a message for somebody', requestBody: body(jsonSchemaOf(newMessage)), responses: { 200: answer('Left in their mailbox and on their display.'), ...failures } },
      },
      '/api/messages/{id}/read': { post: { summary: 'Mark a message for oneself as read', parameters: parameters(messagesQuery), responses: { 200: answer('Read; who took it down sees that.'), ...failures, 404: answer('No such message for you.') } } },
      '/api/parkings': { get: { summary: 'The history of parkings, newest first', parameters: parameters(parkingQuery), responses: { 200: answer('rows.'), ...failures } } },
      '/api/calls': {
        get: {
          summary: 'The call log, newest first',
          parameters: parameters(logQuery),
          responses: { 200: answer('rows, and next for the page after.'), ...failures },
        },
      },
      '/api/feed': { get: { summary: 'The live feed (WebSocket): say {"type":"hello","since":{"epoch","seq"}}, receive a snapshot or the events missed, then every event', responses: { 101: answer('Switching to WebSocket.'), 401: answer('Nobody is signed in.') } } },
      '/api/health': { get: { summary: 'State of database and exchange, and the last event number', responses: { 200: answer('All is well.'), 503: answer('Something is away; the body says what.') } } },
    },
    components: { schemas: Object.fromEntries([...new Set([...personServices, ...handsetServices])].map(service => [service, requestSchema(service)])) },
  }
}
