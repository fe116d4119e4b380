import { z } from 'zod'
import { Gear } from './gear'
import { fieldWords } from './gear-figures'
import { type Stage, stageNames } from './stage'

/** A node of a JSON Schema, as far as a form needs it. */
export interface FormSchema {
  title?: string
  type?: 'object' | 'array' | 'string' | 'number' | 'integer' | 'boolean'
  description?: string
  const?: string | number
  enum?: (string | number)[]
  default?: unknown
  examples?: unknown[]
  minimum?: number
  maximum?: number
  exclusiveMinimum?: number
  maxLength?: number
  minItems?: number
  maxItems?: number
  properties?: Record<string, FormSchema>
  required?: string[]
  additionalProperties?: FormSchema | boolean
  items?: FormSchema
  prefixItems?: FormSchema[]
  anyOf?: FormSchema[]
  oneOf?: FormSchema[]
}

/** The format of a thing as a tree that a form can be drawn from: whatever the format can say, the form can change. */
export const gearForm = (): FormSchema =>
  z.toJSONSchema(Gear, { io: 'input', unrepresentable: 'any', reused: 'inline' }) as FormSchema

export const variantsOf = ({ anyOf, oneOf }: FormSchema): FormSchema[] | undefined => anyOf ?? oneOf

/** The least that a part of the format may be, to begin from. */
export function emptyOf(schema: FormSchema): unknown {
  const variants = variantsOf(schema)
  const given = schema.default ?? schema.examples?.[0]
  if (given !== undefined) return JSON.parse(JSON.stringify(given)) as unknown
  if (variants?.[0]) return emptyOf(variants[0])
  if (schema.const !== undefined) return schema.const
  if (schema.enum) return schema.enum[0]
  switch (schema.type) {
    case 'object':
      return Object.fromEntries(
        (schema.required ?? []).map((key) => [key, emptyOf(schema.properties?.[key] ?? {})]),
      )
    case 'array':
      return schema.prefixItems
        ? schema.prefixItems.map(emptyOf)
        : Array.from({ length: schema.minItems ?? 0 }, () => emptyOf(schema.items ?? {}))
    case 'number':
    case 'integer':
      return emptyNumber(schema)
    case 'boolean':
      return false
    default:
      return 'new'
  }
}

/** Zero where that is allowed, else the nearest to it that is; where only more than a bound is, one or half of the most. */
function emptyNumber({ minimum = -Infinity, maximum = Infinity, exclusiveMinimum }: FormSchema): number {
  if (exclusiveMinimum !== undefined && exclusiveMinimum >= 0)
    return maximum >= exclusiveMinimum + 1 ? exclusiveMinimum + 1 : (exclusiveMinimum + maximum) / 2
  return Math.min(maximum, Math.max(minimum, 0))
}

/** Which of several shapes a value has: by the words that only one of them allows, then by type and by names of fields. */
export function variantOf(variants: readonly FormSchema[], value: unknown): number {
  const found = variants.findIndex((each) => matches(each, value))
  return Math.max(0, found)
}

function matches(schema: FormSchema, value: unknown): boolean {
  const variants = variantsOf(schema)
  if (variants) return variants.some((each) => matches(each, value))
  if (schema.const !== undefined) return value === schema.const
  if (schema.enum) return schema.enum.includes(value as string)
  switch (schema.type) {
    case 'object': {
      if (typeof value !== 'object' || value === null || Array.isArray(value)) return false
      const fields = value as Record<string, unknown>
      const { properties = {}, required = [] } = schema
      return (
        required.every((key) => key in fields) &&
        Object.entries(fields).every(([key, each]) => {
          const own = properties[key]
          return own ? own.const === undefined || own.const === each : schema.additionalProperties !== false
        })
      )
    }
    case 'array':
      return Array.isArray(value)
    case 'integer':
      return typeof value === 'number'
    default:
      return typeof value === schema.type
  }
}

/** Name of a shape in a list of several. */
export function variantName(schema: FormSchema): string {
  if (schema.title !== undefined) return schema.title
  const kind = schema.properties?.['kind']?.const
  if (kind !== undefined) return stageNames[kind as Stage['kind']] ?? `${kind}`
  if (schema.const !== undefined) return `${schema.const}`
  if (schema.enum) return schema.enum.join(' or ')
  if (schema.type === 'object')
    return (schema.required ?? Object.keys(schema.properties ?? {}))
      .map((key) => fieldWords(key).name)
      .join(', ')
  return schema.type ?? 'other'
}
