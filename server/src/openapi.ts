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
  for (const request of requests) {
    const { method, path, does, body, answer, problems } = request
    const parameters = [...parametersInPath(path), ...parametersInQuery(request)]
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
          200: {
            description: 'Done.',
            content: json(answer, 'output'),
            ...(request.paged ? { headers: nextPage } : {}),
          },
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

const parametersInPath = (path: string) =>
  [...path.matchAll(/:(\w+)/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' },
  }))

function parametersInQuery({ query, paged }: Request) {
  const own = query instanceof z.ZodObject ? Object.keys(query.shape as object) : []
  return [
    ...own.map((name) => ({ name, in: 'query', required: true, schema: { type: 'string' } })),
    ...(paged
      ? [
          {
            name: 'limit',
            in: 'query',
            description: 'how many at most',
            schema: { type: 'integer', default: paged.limit },
          },
          {
            name: 'after',
            in: 'query',
            description: 'what the page before ended with',
            schema: { type: 'string' },
          },
        ]
      : []),
  ]
}

const nextPage = {
  Link: { description: 'rel="next": the address of the next page (RFC 8288)', schema: { type: 'string' } },
}
