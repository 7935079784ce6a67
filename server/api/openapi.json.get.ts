import { openApiDocument } from '~~/shared/openapi'

export default defineEventHandler(() => openApiDocument())
