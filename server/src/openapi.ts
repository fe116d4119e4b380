import { z } from 'zod'
import { Problem, type Request } from '@iron-hush/core/contract'

/** The OpenAPI 3.1 description of the server, written from the contract. */
export function openApi(requests: readonly Request[]): object {
  const schema = (type: z.ZodType, io: 'input' | 'output') =>
    z.toJSONSchema(type, { io, unrepresentable: 'any' })
  const json = (type: z.ZodType, io: 'input' | 'output') => ({
    'application/json': { schema: schema(type, io) },
  })
  const paths: Record<string, Record<string, unknown>> = {}
  for (const { method, path, does, body, answer, problems } of requests) {
    const parameters = [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
      name,
      in: 'path',
      required: true,
      schema: { type: 'string' },
    }))
    const refusals = Object.entries({
      ...problems,
      ...(body ? { 422: problems?.[422] ?? 'The request is not as described.' } : {}),
    })
    const address = path.replace(/:(\w+)/g, '{$1}')
    paths[address] = {
      ...paths[address],
      [method]: {
        summary: does,
        ...(parameters.length ? { parameters } : {}),
        ...(body ? { requestBody: { required: true, content: json(body, 'input') } } : {}),
        responses: {
          200: { description: 'Done.', content: json(answer, 'output') },
          ...Object.fromEntries(
            refusals.map(([status, description]) => [
              status,
              { description, content: { 'application/problem+json': { schema: schema(Problem, 'output') } } },
            ]),
          ),
        },
      },
    }
  }
  return { openapi: '3.1.0', info: { title: 'Iron Hush', version: '0.1.0', license: { name: 'MIT' } }, paths }
}
