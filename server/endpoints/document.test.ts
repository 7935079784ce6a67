import { createConfig, lintFromString } from '@redocly/openapi-core'
import { Validator } from '@seriousme/openapi-schema-validator'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { number, object, string } from 'yup'
import { oneOfBy } from '~~/core/schema/shapes'
import { openApiDocument } from './document'
import { placesIn, registryModule } from './find'

describe('where endpoints stand', () => {
  const folder = mkdtempSync(join(tmpdir(), 'endpoints-'))
  for (const file of ['boats/index.get.ts', 'boats/[id]/crew.post.ts', 'feed.ts', 'openapi.json.get.ts', '[...].ts', 'notes.md']) {
    mkdirSync(dirname(join(folder, file)), { recursive: true })
    writeFileSync(join(folder, file), '')
  }

  it('is read from the names of their files; the catch-all is none', () => {
    expect(placesIn(folder).map(({ method, path }) => `${method} ${path}`)).toEqual([
      'get /api/boats', 'post /api/boats/{id}/crew', 'get /api/feed', 'get /api/openapi.json',
    ])
  })

  it('becomes a module that knows each', () => {
    expect(registryModule(folder)).toContain('{ method: \'post\', path: \'/api/boats/{id}/crew\', endpoint: endpoint1.endpoint }')
  })
})

describe('the description', () => {
  const document = openApiDocument([
    {
      method: 'get',
      path: '/api/boats',
      endpoint: {
        summary: 'Boats',
        mayAsk: 'everybody',
        query: object({ limit: number().integer().max(9).optional() }),
        answer: object({ names: string().required() }),
      },
    },
    {
      method: 'post',
      path: '/api/boats/{id}',
      endpoint: {
        summary: 'Move one',
        mayAsk: ['supervisor'],
        params: object({ id: string().required() }),
        also: { 404: 'There is no such boat.' },
        body: oneOfBy<object>('to', {
          sea: object({ to: string().oneOf(['sea']).required() }),
          quay: object({ to: string().oneOf(['quay']).required(), berth: number().required() }),
        }),
      },
    },
  ])

  it('is valid OpenAPI 3.1', async () => {
    expect((await new Validator().validate(structuredClone(document) as never)).errors).toBeUndefined()
  })

  it('names each operation, says who may ask for it and where, and leaves a general linter nothing to find', async () => {
    const problems = await lintFromString({ source: JSON.stringify(document), config: await createConfig({ extends: ['recommended'] }) })
    expect(problems.filter(({ severity }) => severity === 'error').map(({ ruleId, message }) => `${ruleId}: ${message}`)).toEqual([])
    const { paths, servers } = document as { paths: Record<string, Record<string, unknown>>, servers: unknown[] }
    expect(servers).toHaveLength(1)
    expect(paths['/api/boats']!.get).toMatchObject({ operationId: 'getBoats', security: [] })
    expect(paths['/api/boats/{id}']!.post).toMatchObject({ operationId: 'postBoatsById', security: [{ session: [] }] })
  })

  it('tells who may ask, what is asked and what is answered', () => {
    expect(document).toMatchObject({
      paths: {
        '/api/boats': {
          get: {
            description: 'For everybody.',
            parameters: [{ name: 'limit', in: 'query', required: false, schema: { type: 'integer', maximum: 9 } }],
            responses: { 200: {}, 422: {} },
          },
        },
        '/api/boats/{id}': {
          post: {
            description: 'For these roles: supervisor.',
            security: [{ session: [] }],
            parameters: [{ name: 'id', in: 'path', required: true }],
            requestBody: {
              content: { 'application/json': { schema: { oneOf: [{ $ref: '#/components/schemas/sea' }, { $ref: '#/components/schemas/quay' }] } } },
            },
            responses: { 401: {}, 403: {}, 404: { description: 'There is no such boat.' }, 413: {}, 415: {} },
          },
        },
      },
      components: { schemas: { quay: { required: ['to', 'berth'] } } },
    })
    expect(document).not.toHaveProperty(['paths', '/api/boats', 'get', 'responses', '401'])
  })
})
