import { describe, expect, it } from 'vitest'
import { shelf } from '../tests/demo'
import { emptyOf, fieldWords, type FormSchema, Gear, gearForm, variantOf, variantsOf } from './index'

/** Walks a value beside its schema, as the form does, and gives it back part by part. */
function asDrawn(schema: FormSchema, value: unknown): unknown {
  const variants = variantsOf(schema)
  if (variants) return asDrawn(variants[variantOf(variants, value)]!, value)
  if (Array.isArray(value)) {
    expect(schema.type).toBe('array')
    return value.map((each, at) => asDrawn(schema.prefixItems?.[at] ?? schema.items ?? {}, each))
  }
  if (typeof value === 'object' && value !== null) {
    expect(schema.type).toBe('object')
    return Object.fromEntries(
      Object.entries(value).map(([key, each]) => {
        const own = schema.properties?.[key] ?? schema.additionalProperties
        expect(own, `a field for ${key}`).toBeTypeOf('object')
        return [key, asDrawn(own as FormSchema, each)]
      }),
    )
  }
  if (schema.const !== undefined) expect(value).toBe(schema.const)
  else if (schema.enum) expect(schema.enum).toContain(value)
  else
    expect(schema.type).toBe(Number.isInteger(value) && schema.type === 'integer' ? 'integer' : typeof value)
  return value
}

/** Every list and every choice of the format that a form could add to. */
function* partsOf(schema: FormSchema): Generator<FormSchema> {
  yield schema
  for (const each of [
    ...(variantsOf(schema) ?? []),
    ...Object.values(schema.properties ?? {}),
    ...(schema.prefixItems ?? []),
    ...(schema.items ? [schema.items] : []),
    ...(typeof schema.additionalProperties === 'object' ? [schema.additionalProperties] : []),
  ])
    yield* partsOf(each)
}

describe('the form of a thing', () => {
  const form = gearForm()
  it('has a field for everything that any thing of the shelf says, and loses nothing of it', () => {
    for (const thing of shelf.values()) expect(asDrawn(form, thing)).toEqual(thing)
  })
  it('begins every part with something that the format allows', () => {
    for (const part of partsOf(form)) {
      const variants = variantsOf(part)
      for (const variant of variants ?? [])
        expect(variantOf(variants!, emptyOf(variant))).toBeLessThan(variants!.length)
      if (part.type === 'number' || part.type === 'integer') {
        const value = emptyOf(part) as number
        expect(value).toBeGreaterThanOrEqual(part.minimum ?? -Infinity)
        expect(value).toBeLessThanOrEqual(part.maximum ?? Infinity)
        if (part.exclusiveMinimum !== undefined) expect(value).toBeGreaterThan(part.exclusiveMinimum)
      }
    }
    const stage = Gear.shape.strips.unwrap().element.shape.stages.element
    const stages = [...partsOf(form)].find((part) =>
      variantsOf(part)?.some(({ properties }) => properties?.['kind']?.const === 'agc'),
    )!
    for (const variant of variantsOf(stages)!)
      expect(stage.safeParse(emptyOf(variant)).error?.issues ?? []).toEqual([])
  })
  it('says fields in words with their units, as the sheet of the thing does', () => {
    expect(fieldWords('inputNoiseDbuA')).toEqual({ name: 'input noise', unit: 'dBu(A)' })
    expect(fieldWords('delayMs')).toEqual({ name: 'delay', unit: 'ms' })
    expect(fieldWords('lengthM')).toEqual({ name: 'length', unit: 'm' })
    expect(fieldWords('ceilingShape')).toEqual({ name: 'ceiling shape', unit: '' })
  })
})
