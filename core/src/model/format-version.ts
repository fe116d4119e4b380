/** Version of patch and shelf files that this release writes. It reads the earlier ones too. */
export const formatVersion = 2

/** Names of version 1 that were hard to understand, and what they are called since version 2. */
const renamed: ReadonlyMap<string, string> = new Map([
  ['school', 'peakTarget'],
  ['keeper', 'counts'],
  ['through', 'pieces'],
  ['turned', 'reversed'],
  ['way', 'direction'],
  ['bearsVolts', 'toleratesVolts'],
  ['leastVolts', 'minimumVolts'],
  ['usualVolts', 'typicalVolts'],
  ['usualAmperes', 'typicalAmperes'],
])

/** Fields whose own fields are ids that the user chose, with nothing to rename inside. */
const byId = new Set(['settings', 'at'])

/**
 * Any JSON of an earlier version (a file, an edit, a stored document) as this version has it; what is current comes back
 * as it is. Nothing is checked here: the schema does that afterwards.
 */
export function currentFormat(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(currentFormat)
  if (value === null || typeof value !== 'object') return value
  const { format } = value as { format?: unknown }
  const counted = format === 'iron-hush/patch' || format === 'iron-hush/shelf'
  return Object.fromEntries(
    Object.entries(value).map(([name, each]: [string, unknown]) => [
      renamed.get(name) ?? name,
      counted && name === 'version' && each === 1
        ? formatVersion
        : byId.has(name)
          ? each
          : currentFormat(each),
    ]),
  )
}
