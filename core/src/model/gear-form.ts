import { z } from 'zod'
import { Gear } from './gear'

/** A node of a JSON Schema, as far as a form needs it. */
export interface FormSchema {
  title?: string
  type?: 'object' | 'array' | 'string' | 'number' | 'integer' | 'boolean'
  description?: string
  const?: string | number
  enum?: (string | number)[]
  default?: unknown
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
  if (schema.default !== undefined) return JSON.parse(JSON.stringify(schema.default)) as unknown
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

/** What a shape is called in a list of several. */
export function variantName(schema: FormSchema): string {
  if (schema.title !== undefined) return schema.title
  const kind = schema.properties?.['kind']?.const
  if (kind !== undefined) return `${kind}`
  if (schema.const !== undefined) return `${schema.const}`
  if (schema.enum) return schema.enum.join(' or ')
  if (schema.type === 'object')
    return (schema.required ?? Object.keys(schema.properties ?? {})).map(fieldName).join(', ')
  return schema.type ?? 'other'
}

const units: readonly (readonly [ending: RegExp, unit: string])[] = [
  [/DbuA$/, 'dBu(A)'],
  [/Dbu$/, 'dBu'],
  [/DbfsA$/, 'dBFS(A)'],
  [/DbvPa$/, 'dBV/Pa'],
  [/DbSpl$/, 'dB SPL'],
  [/Dba$/, 'dB(A)'],
  [/Dbm$/, 'dBm'],
  [/Db$/, 'dB'],
  [/Ohm$/, 'ohm'],
  [/Ms$/, 'ms'],
  [/Hz$/, 'Hz'],
  [/MHz$|Mhz$/, 'MHz'],
  [/Khz$/, 'kHz'],
  [/Mw$/, 'mW'],
  [/Mm$/, 'mm'],
  [/Volts$|^volts$/, 'V'],
  [/Amperes$/, 'A'],
  [/Pf$/, 'pF'],
  [/picofaradPerM$|PicofaradPerM$/, 'pF/m'],
  [/[a-z]S$/, 's'],
  [/[a-z]M$/, 'm'],
]

/** The unit that the name of a field ends with; empty where it has none. */
export const unitOfField = (field: string): string => units.find(([ending]) => ending.test(field))?.[1] ?? ''

/** A field of the format in words: `inputNoiseDbuA` is "input noise". */
export function fieldName(field: string): string {
  const ending = units.find(([each]) => each.test(field))?.[0]
  const bare =
    ending && !/^volts$|^ohm$/i.test(field)
      ? field.replace(/(DbuA|Dbu|DbfsA|DbvPa|DbSpl|Dba|Dbm|Db|Ohm|Ms|MHz|Mhz|Khz|Hz|Mw|Mm|Pf|PerM)$/, '')
      : field
  const words = bare.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`).trim()
  return words || field
}
