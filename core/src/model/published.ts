import { z } from 'zod'
import { LineUpAnswer, ReadingsFile, TrialAnswer } from './line-up-answer'
import { StandInFile } from './stand-in'
import { BalanceAnswer, LevelsAnswer, MeasureAnswer, OddsAnswer, WiringAnswer } from './answer'
import { Brief, Source } from './brief'
import { Connector } from './connector'
import { Control } from './control'
import * as figures from './figure'
import { Gear, Passive, Port, ShelfFile, Strip } from './gear'
import { Box, Link, Patch, Plan } from './patch'
import { Amount, Stage } from './stage'

/** Files and answers whose JSON Schema is published, and whether it describes what is read or what is written. */
const published = {
  patch: [Patch, 'input'],
  shelf: [ShelfFile, 'input'],
  levels: [LevelsAnswer, 'output'],
  balance: [BalanceAnswer, 'output'],
  measure: [MeasureAnswer, 'output'],
  odds: [OddsAnswer, 'output'],
  wiring: [WiringAnswer, 'output'],
  'line-up': [LineUpAnswer, 'output'],
  trial: [TrialAnswer, 'output'],
  readings: [ReadingsFile, 'input'],
  'stand-ins': [StandInFile, 'input'],
} as const satisfies Record<string, readonly [z.ZodType, 'input' | 'output']>

/** Schemas published as named definitions. */
const { NoiseDbu, NoiseDbfs, NoiseSpl, CeilingDbu, CeilingSpl, FullScaleDbu, SensitivityDbvPa, Ohm } = figures
const named = {
  ...{ Amount, Box, Brief, Connector, Control, Gear, Link, Passive, Plan, Port, Source, Stage, Strip },
  ...{ NoiseDbu, NoiseDbfs, NoiseSpl, CeilingDbu, CeilingSpl, FullScaleDbu, SensitivityDbvPa, Ohm },
}

/** Every published JSON Schema by its name, each with an `$id`. */
export function publishedSchemas(): Record<string, object> {
  const metadata = z.registry<{ id: string }>()
  for (const [id, schema] of Object.entries(named)) metadata.add(schema, { id })
  return Object.fromEntries(
    Object.entries(published).map(([name, [schema, io]]) => [
      name,
      { $id: `urn:iron-hush:schema:${name}:1`, ...z.toJSONSchema(schema, { io, metadata }) },
    ]),
  )
}
