import { Option } from 'commander'
import { type Gear, Refusal, type Shelf, standalone } from '@iron-hush/core/model'
import {
  type HeardWith,
  planScene,
  type Question,
  type Scenario,
  scenarios,
  suggestScene,
  unknownCameras,
} from '@iron-hush/core/plan'
import { decibels } from '@iron-hush/core/units'
import {
  besideWords,
  heardWithName,
  reasonWords,
  toBuyWords,
  verdictOf,
  wayName,
} from '@iron-hush/core/words'
import { readShelf } from '../input'
import type { Shell } from '../shell'

interface PlanOptions {
  camera: string
  hear: string
  with: string
  radio?: boolean
  outdoors?: boolean
  far?: boolean
  json?: boolean
  shelf?: string
}

/** A scene planned from three answers: what films, who is heard, what with. */
export function planCommand(shell: Shell): void {
  const { program, say } = shell
  program
    .command('plan')
    .description('a scene from three answers, as a patch: chain found, powers on, controls balanced')
    .requiredOption(
      '--camera <thing>',
      `what films: a camera of the shelf by id or name, or ${unknownCameras.map(({ name }) => `"${name}"`).join(', ')}`,
    )
    .requiredOption(
      '--hear <scene>',
      `who is heard: ${scenarios.map(({ id, name }) => `${id} (${name.toLowerCase()})`).join(', ')}`,
    )
    .addOption(
      new Option(
        '--with <thing>',
        'a microphone of the shelf by id or name, "built in", or "anything" that is owned',
      ).default('anything'),
    )
    .option('--radio', 'over a radio')
    .option('--outdoors', 'in the open')
    .option('--far', 'keep the microphone out of a wide shot')
    .option('--json', 'print the patch')
    .option('--shelf <shelf.json>', 'a gear file to use instead of the shelf that ships with it')
    .action(async (options: PlanOptions) => {
      const shelf = await readShelf(options.shelf)
      const asked = {
        camera: cameraNamed(options.camera, shelf),
        scenario: scenarioNamed(options.hear),
        outdoors: options.outdoors,
        far: options.far,
      }
      const [best] =
        options.with === 'anything'
          ? suggestScene(asked, shelf)
          : planScene({ ...asked, heardWith: heardWith(options, shelf) } satisfies Question, shelf)
      if (!best) throw new Refusal('Nothing on the shelf connects these safely. Choose another microphone.')
      shell.code = best.troubles ? 1 : 0
      if (options.json) return say.log(JSON.stringify(standalone(best.patch, shelf), null, 2))
      const words = best.run ? verdictOf(best.run, best.patch.plan).map(({ text }) => text) : []
      say.log(words.join('').trim())
      for (const reason of best.reasons) say.log(`  ${reasonWords(reason)}`)
      say.log(
        `  ${heardWithName(best, shelf)}, ${wayName(best, shelf)}; worst recording ${decibels(best.worstDb)} over its noise`,
      )
      if (best.beside.length) say.log(`  ${besideWords(best.beside)}`)
      if (best.missing.length) say.log(`  ${toBuyWords(best.missing)}`)
    })
}

const same = (text: string, ...names: string[]) =>
  names.some((name) => name.toLowerCase() === text.toLowerCase())

function gearNamed(text: string, shelf: Shelf, kind: Gear['kind']): Gear | undefined {
  return [...shelf.values()].find((gear) => gear.kind === kind && same(text, gear.id, gear.name))
}

function cameraNamed(text: string, shelf: Shelf): Gear {
  const unknown = unknownCameras.find(({ id, name }) => same(text, id, name))
  const found = gearNamed(text, shelf, 'camera') ?? unknown?.gear
  if (!found) throw new Refusal(`No camera of the shelf is called "${text}". hush plan --help lists more.`)
  return found
}

function scenarioNamed(text: string): Scenario {
  const found = scenarios.find(({ id, name }) => same(text, id, name))
  if (!found)
    throw new Refusal(
      `"${text}" is not a scene to plan from; use ${scenarios.map(({ id }) => id).join(', ')}.`,
    )
  return found
}

function heardWith({ with: text, radio }: PlanOptions, shelf: Shelf): HeardWith {
  if (same(text, 'built in', 'built-in')) return 'built in'
  const microphone = gearNamed(text, shelf, 'microphone')
  if (!microphone) throw new Refusal(`No microphone of the shelf is called "${text}".`)
  return { microphone, radio }
}
