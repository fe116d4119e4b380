import path from 'node:path'
import { balance } from '@iron-hush/core/balance'
import { applyEdits } from '@iron-hush/core/edits'
import {
  benchOf,
  clipReadingOf,
  learntOf,
  type ReadClip,
  withLearnt,
  withReadings,
} from '@iron-hush/core/lineup'
import {
  gearOf,
  type Patch,
  parseJson,
  ReadingsFile,
  type Shelf,
  shelfFor,
  shelfOf,
  uuidv7,
} from '@iron-hush/core/model'
import { lineUpAnswer } from '@iron-hush/core/report'
import { fileSource, nameOf, readPatch, textOf } from '../input'
import type { Options } from '../options'
import type { Shell } from '../shell'
import { lineUpText } from '../text'

interface LineUpOptions extends Options {
  readings?: string
}

/** The steps of the line-up, and with readings what they mean and what is learnt. */
export function lineUpCommand(shell: Shell): void {
  shell
    .onPatch('line-up', 'the steps that make a plan true on the real boxes, and what readings of them mean')
    .option('--readings <file>', 'readings and clips of its steps (format iron-hush/readings)')
    .action(async (file: string, options: LineUpOptions) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const read = options.readings === undefined ? patch : await readingsIn(options.readings, patch, shelf)
      const bench = benchOf(read, shelf)
      const learnt = learntOf(bench)
      const outcome = learnt.length ? balanceWith(read, shelf, learnt) : undefined
      const all = shelfFor(read, shelf)
      const gear = (box: string) => {
        const found = read.boxes.find(({ id }) => id === box)
        return found && gearOf(all, found.gear)
      }
      shell.answer(lineUpAnswer(bench, learnt, outcome, gear), options, lineUpText)
    })
}

const fresh = () => ({
  at: new Date().toISOString(),
  id: () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10))),
})

/** A scene with the readings of a file; clips are in the same folder. */
async function readingsIn(file: string, patch: Patch, shelf: Shelf): Promise<Patch> {
  const { readings } = parseJson(ReadingsFile, await textOf(file), nameOf(file))
  const folder = file === '-' ? '.' : path.dirname(file)
  const readClip: ReadClip = async (name, channel, step) => {
    const source = await fileSource(path.resolve(folder, name))
    try {
      return await clipReadingOf(source, path.basename(name), channel, step)
    } finally {
      await source.close()
    }
  }
  return withReadings(patch, shelf, readings, readClip, fresh())
}

/** Settings proposed by Balance with every learnt figure. */
function balanceWith(patch: Patch, shelf: Shelf, learnt: ReturnType<typeof learntOf>) {
  const all = shelfFor(patch, shelf)
  const own = learnt.map(({ thing, changes }) => withLearnt(thing, changes, [...all.values()], fresh()))
  const things = shelfOf([...all.values(), ...own])
  const swaps = learnt.map(({ box }, index) => ({ kind: 'swap' as const, part: box, gear: own[index]!.id }))
  return balance(applyEdits(patch, swaps, things), things)
}
