import { mayHoldSound } from '@iron-hush/core/media'

const entriesOf = (folder: FileSystemDirectoryEntry): Promise<FileSystemEntry[]> =>
  new Promise((resolve, reject) => {
    const reader = folder.createReader()
    const all: FileSystemEntry[] = []
    // it answers in parts, and with an empty one at the end
    const next = () =>
      reader.readEntries((some) => {
        all.push(...some)
        if (some.length) next()
        else resolve(all)
      }, reject)
    next()
  })
const fileOf = (entry: FileSystemFileEntry): Promise<File> =>
  new Promise((resolve, reject) => entry.file(resolve, reject))

async function filesUnder(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) return [await fileOf(entry as FileSystemFileEntry)]
  const inside = await entriesOf(entry as FileSystemDirectoryEntry)
  const found = await Promise.all(
    inside.sort((one, other) => one.name.localeCompare(other.name)).map(filesUnder),
  )
  // in a folder only possible sound files; a single file is always tried
  return found.flat().filter(({ name }) => mayHoldSound(name))
}

/** All files that were dropped, including those in folders. */
export async function droppedFiles(transfer: DataTransfer | null): Promise<File[]> {
  const entries = [...(transfer?.items ?? [])].flatMap((item) => item.webkitGetAsEntry() ?? [])
  if (entries.length === 0) return [...(transfer?.files ?? [])]
  return (await Promise.all(entries.map(filesUnder))).flat()
}
/** Files of a chosen folder that may be sound. */
export const soundIn = (files: readonly File[]): File[] => files.filter(({ name }) => mayHoldSound(name))
