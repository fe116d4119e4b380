import type { SceneSummary, Shoot } from '@iron-hush/core/contract'
import {
  formatVersion,
  parseJson,
  Patch,
  refuseBadPatch,
  Refusal,
  ShootFile,
  standalone,
  withoutKnownGear,
} from '@iron-hush/core/model'
import { download } from './download'
import { useGear } from './gear'
import { useNotices } from './notices'
import { useShoots } from './shoots'

const largestBytes = 20e6

const fileName = (name: string) => `${name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.json`
const write = (content: unknown, name: string) =>
  download(`${JSON.stringify(content, null, 2)}\n`, fileName(name), 'application/json')

/** Writes a scene as a patch file that stands alone: `hush` reads it, and so does Import. */
export async function exportScene({ id, name }: SceneSummary): Promise<void> {
  write(standalone(await useShoots().patchOf(id), useGear().shelf), name)
}

export async function exportShoot({ name, date, place, scenes }: Shoot): Promise<void> {
  const { shelf } = useGear()
  const patches: Patch[] = []
  for (const { id } of scenes) patches.push(standalone(await useShoots().patchOf(id), shelf))
  const file = { format: 'iron-hush/shoot', version: formatVersion, name, date, place, scenes: patches }
  write(file satisfies { [K in Exclude<keyof ShootFile, '$schema'>]: unknown }, name)
}

/** Takes patch and shoot files into the shoots. A file that cannot be used is refused with a sentence, the others go in. */
export async function importFiles(files: readonly File[]): Promise<void> {
  // what a file names may lie anywhere on the shelf
  await useGear().whenWhole()
  for (const file of files)
    try {
      if (file.size > largestBytes)
        throw new Refusal(`${file.name} was refused: it is over 20 MB, and no patch is. Nothing was changed.`)
      await importText(await file.text(), file.name)
    } catch (error) {
      useNotices().say(error instanceof Error ? error.message : String(error))
    }
}

async function importText(text: string, name: string): Promise<void> {
  const shoots = useShoots()
  if (/"format"\s*:\s*"iron-hush\/shoot"/.test(text)) {
    const { name: called, date, place, scenes } = parseJson(ShootFile, text, name)
    const patches = scenes.map((patch) => checked(patch, name))
    const shoot = await shoots.makeShoot({ name: called, date, place })
    if (shoot) for (const patch of patches) await shoots.makeScene(shoot, patch)
    return
  }
  const patch = checked(parseJson(Patch, text, name), name)
  const shoot = await ownShoot()
  if (shoot) await shoots.makeScene(shoot, patch)
}

function checked(patch: Patch, name: string): Patch {
  const { shelf } = useGear()
  refuseBadPatch(patch, shelf, name)
  return withoutKnownGear(patch, shelf)
}

/** The first shoot of one's own; made where there is none yet. */
export async function ownShoot(): Promise<string | undefined> {
  const shoots = useShoots()
  return (
    shoots.list.find(({ demo }) => !demo)?.id ??
    (await shoots.makeShoot({ name: 'My shoot', date: null, place: '' }))
  )
}
