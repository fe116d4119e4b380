import { type Edit, type Patch, positionName, type Shelf, shelfFor } from '../model'

/** What an edit does, in words a person knows the chain by: "Gain 1 of Recorder to 41 dB". */
export function editWords(edit: Edit, patch: Patch, commonShelf: Shelf): string {
  const shelf = shelfFor(patch, commonShelf)
  const parts = [...patch.boxes, ...patch.links.flatMap(({ through }) => through)]
  const nameOf = (id: string): string => {
    const part = parts.find((each) => each.id === id)
    return (part && 'name' in part && part.name) || shelf.get(part?.gear ?? '')?.name || id
  }
  const gearName = (id: string): string => shelf.get(id)?.name ?? id
  const linkName = (id: string): string => {
    const link = patch.links.find((each) => each.id === id)
    return link ? `${nameOf(link.from.box)} and ${nameOf(link.to.box)}` : id
  }
  const control = (part: string, id: string) =>
    shelf.get(parts.find((each) => each.id === part)?.gear ?? '')?.controls.find((each) => each.id === id)
  switch (edit.kind) {
    case 'set control': {
      const set = control(edit.part, edit.control)
      const to = edit.position ?? set?.initial
      const position = set && to !== undefined ? positionName(set, to) : String(to)
      return `${set?.name ?? edit.control} of ${nameOf(edit.part)} to ${position}`
    }
    case 'lock control':
      return `${control(edit.part, edit.control)?.name ?? edit.control} of ${nameOf(edit.part)} ${edit.locked ? 'locked' : 'unlocked'}`
    case 'change brief':
      return `brief changed: ${Object.keys(edit.to).map(briefWords).join(', ')}`
    case 'change plan':
      return `plan: ${edit.to.school} school, ${edit.to.keeper}, ${edit.to.marginDb} dB of margin`
    case 'rename':
      return `scene renamed to ${edit.name}`
    case 'note':
      return 'note of the scene changed'
    case 'add box':
      return `${edit.box.name ?? gearName(edit.box.gear)} added`
    case 'remove box':
      return `${nameOf(edit.box)} removed`
    case 'place box':
      return `${nameOf(edit.box)} ${edit.place === null ? 'has no place' : `placed: ${patch.brief.places.find(({ id }) => id === edit.place)?.name ?? edit.place}`}`
    case 'cover box':
      return `${nameOf(edit.box)} covered with ${edit.cover ?? 'nothing'}`
    case 'connect':
      return `${nameOf(edit.link.from.box)} connected to ${nameOf(edit.link.to.box)}`
    case 'disconnect':
      return `${linkName(edit.link)} disconnected`
    case 'insert piece':
      return `${gearName(edit.piece.gear)} put between ${linkName(edit.link)}`
    case 'remove piece':
      return `${nameOf(edit.piece)} taken out`
    case 'swap':
      return `${nameOf(edit.part)} exchanged for ${gearName(edit.gear)}`
    case 'set wiring':
      return 'wiring replaced'
    case 'restore wiring':
      return 'a change of the wiring undone'
  }
}

const briefWords = (key: string): string =>
  key === 'wantedSpeechToNoiseDb'
    ? 'speech-to-noise asked for'
    : key === 'noises'
      ? 'noises of the place'
      : key
