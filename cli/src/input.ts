import { open, readdir, readFile, stat } from 'node:fs/promises'
import path from 'node:path'
import { fileURLToPath } from 'node:url'
import { pairPatch } from '@iron-hush/core/advice'
import { type ByteSource, mayHoldSound } from '@iron-hush/core/media'
import {
  checkGear,
  type Link,
  parseJson,
  Patch,
  refuseBadPatch,
  Refusal,
  type Shelf,
  ShelfFile,
  type StandIn,
  StandInFile,
  shelfFor,
  shelfOf,
  gearOf,
} from '@iron-hush/core/model'

const ownShelf = fileURLToPath(new URL('../../demo/shelf.json', import.meta.url))
const ownStandIns = fileURLToPath(new URL('../../demo/stand-ins.json', import.meta.url))
const largestPatchBytes = 20e6

/** Name of a file in a sentence; `-` is standard input. */
export const nameOf = (file: string): string => (file === '-' ? 'standard input' : path.basename(file))

async function standardInput(): Promise<Buffer> {
  const parts: Buffer[] = []
  for await (const part of process.stdin) parts.push(Buffer.from(part as Uint8Array))
  return Buffer.concat(parts)
}

/** The text of a file that people write, of a size that they do. */
export async function textOf(file: string): Promise<string> {
  const name = nameOf(file)
  if (file === '-') return (await standardInput()).toString('utf8')
  const size = await stat(file).then(
    (found) => (found.isFile() ? found.size : undefined),
    () => undefined,
  )
  if (size === undefined) throw new Refusal(`${name} was refused: there is no such file.`)
  if (size > largestPatchBytes)
    throw new Refusal(`${name} was refused: it is ${Math.round(size / 1e6)} MB, far larger than any patch.`)
  return readFile(file, 'utf8')
}

/** A shelf from a file, validated; by default the one that ships. */
export async function readShelf(shelfFile = ownShelf): Promise<Shelf> {
  const { gear } = parseJson(ShelfFile, await textOf(shelfFile), path.basename(shelfFile))
  for (const problem of gear.flatMap(checkGear))
    throw new Refusal(`${path.basename(shelfFile)} was refused: ${problem}`)
  return shelfOf(gear)
}

/** A patch from a file, validated, with its shelf. */
export async function readPatch(file: string, shelfFile?: string): Promise<{ patch: Patch; shelf: Shelf }> {
  const shelf = await readShelf(shelfFile)
  const patch = parseJson(Patch, await textOf(file), nameOf(file))
  refuseBadPatch(patch, shelf, nameOf(file))
  return { patch, shelf }
}

/** The stand-in devices that ship. */
export const readStandIns = async (): Promise<StandIn[]> =>
  parseJson(StandInFile, await textOf(ownStandIns), 'The stand-in devices').devices

/** A patch of nothing but two things of the shelf, named as `thing.port` each, standing ready to be joined. */
export async function twoThings(
  from: string,
  to: string,
  shelfFile?: string,
): Promise<{ patch: Patch; shelf: Shelf }> {
  const shelf = await readShelf(shelfFile)
  const [one, other] = [from, to].map((text) => {
    const [gear = '', port = ''] = text.split('.')
    if (!shelf.has(gear))
      throw new Refusal(
        `"${text}" was refused: nothing on the shelf has the id "${gear}". Use thing.port, or name a patch and use box.port.`,
      )
    return { gear, port }
  })
  return { patch: { ...pairPatch(one!, other!, shelf).patch, links: [] }, shelf }
}

/** Files as they were named, and of folders all clips in them, by name. Throws a Refusal for a folder without any. */
export async function clipsUnder(given: readonly string[]): Promise<string[]> {
  const all: string[] = []
  for (const name of given) {
    const isFolder = name !== '-' && (await stat(name).catch(() => undefined))?.isDirectory()
    if (!isFolder) {
      all.push(name)
      continue
    }
    const inside = await readdir(name, { recursive: true })
    const clips = inside.filter((file) => mayHoldSound(path.basename(file))).sort()
    if (clips.length === 0)
      throw new Refusal(`${path.basename(name)} was refused: no clips are in this folder.`)
    all.push(...clips.map((file) => path.join(name, file)))
  }
  return all
}

/** A file that is read in parts. Close it when done. */
export async function fileSource(file: string): Promise<ByteSource & { close: () => Promise<void> }> {
  if (file === '-') {
    const bytes = await standardInput()
    return {
      size: bytes.length,
      read: (offset, length) => Promise.resolve(new Uint8Array(bytes.subarray(offset, offset + length))),
      close: () => Promise.resolve(),
    }
  }
  const handle = await open(file).catch(() => {
    throw new Refusal(`${path.basename(file)} was refused: there is no such file.`)
  })
  const found = await handle.stat()
  if (!found.isFile()) throw new Refusal(`${path.basename(file)} was refused: it is not a file.`)
  return {
    size: found.size,
    async read(offset, length) {
      const bytes = new Uint8Array(Math.max(0, Math.min(length, found.size - offset)))
      const { bytesRead } = await handle.read(bytes, 0, bytes.length, offset)
      return bytes.subarray(0, bytesRead)
    },
    close: () => handle.close(),
  }
}

/** A link between two sockets of a patch, given as `box.port`. Throws a Refusal that lists what there is. */
export function linkBetween(patch: Patch, commonShelf: Shelf, from: string, to: string): Link {
  const shelf = shelfFor(patch, commonShelf)
  const end = (text: string, direction: 'in' | 'out') => {
    const all = patch.boxes.flatMap((box) =>
      gearOf(shelf, box.gear)
        .ports.filter((port) => port.direction === direction)
        .map((port) => ({ box: box.id, port: port.id })),
    )
    const found = all.find(({ box, port }) => `${box}.${port}` === text)
    if (!found)
      throw new Refusal(
        `"${text}" is no ${direction}put of this patch; there are ${all.map(({ box, port }) => `${box}.${port}`).join(', ')}.`,
      )
    return found
  }
  return { id: 'way', from: end(from, 'out'), to: end(to, 'in'), pieces: [] }
}
