// The interface reads the types of all routes, and knows this module from nowhere else.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="../endpoints/registry.d.ts" />
import { endpoints } from '#endpoints'
import { mixed } from 'yup'
import { defineEndpoint } from '../endpoints/define'
import { openApiDocument } from '../endpoints/document'

export default defineEndpoint({
  summary: 'This description: OpenAPI 3.1, made from what checks the API',
  dear: true,
  mayAsk: 'everybody',
  answer: mixed<object>().required(),
}, () => openApiDocument(endpoints()))
