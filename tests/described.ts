import type { APIResponse } from '@playwright/test'
import { Ajv2020, type ValidateFunction } from 'ajv/dist/2020.js'

export interface JsonSchema {
  type?: string | string[]
  const?: unknown
  enum?: unknown[]
  oneOf?: JsonSchema[]
  $ref?: string
  properties?: Record<string, JsonSchema>
  required?: string[]
  maxLength?: number
  maximum?: number
  minimum?: number
}
interface Answer { description: string, content?: { 'application/json': { schema: JsonSchema } } }
export interface Operation {
  parameters?: { name: string, in: string, schema: JsonSchema }[]
  requestBody?: { content: Record<string, { schema: JsonSchema }> }
  responses: Record<string, Answer>
}
export interface ApiDocument { openapi: string, paths: Record<string, Record<string, Operation>>, components: { schemas: Record<string, JsonSchema> } }

/** Holds the answers of the API against its own description. */
export class Described {
  private readonly ajv = new Ajv2020({ strict: false, allErrors: true })
  private readonly checks = new Map<string, ValidateFunction>()

  constructor(readonly document: ApiDocument) {
    this.ajv.addSchema({ $id: 'api', ...document })
  }

  /** What is not as described in an answer; null when it is. */
  async complaint(method: string, path: string, answer: APIResponse): Promise<string | null> {
    const status = answer.status()
    const described = this.document.paths[path]?.[method]?.responses[status]
    const where = `${method} ${path} ${status}`
    if (!described) return `${where} is not described: ${(await answer.text()).slice(0, 200)}`
    if (!described.content) return null
    const pointer = ['paths', path, method, 'responses', String(status), 'content', 'application/json', 'schema']
      .map(part => encodeURIComponent(part.replaceAll('~', '~0').replaceAll('/', '~1')))
      .join('/')
    let check = this.checks.get(pointer)
    if (!check) this.checks.set(pointer, check = this.ajv.compile({ $ref: `api#/${pointer}` }))
    return check(await answer.json()) ? null : `${where}: ${this.ajv.errorsText(check.errors)}`
  }
}
