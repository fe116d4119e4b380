import { advisedCover } from '../acoustics'
import { placeFor } from '../advice'
import { formatVersion, freeName, Patch as PatchSchema, type Shelf, type Source } from '../model'
import { ChainBuilder, pluggable } from './chains'
import { type Begun, overRadio } from './joining'
import type { Question } from './question'
import { briefOf } from './scenarios'

/** Distance of a boom that must stay out of a wide shot, m. */
const farM = 1.5

/** A beginning of a chain: the microphone with its radio, if any. */
export function beginningsOf(question: Question, shelf: Shelf): Begun[] {
  const start = startOf(question, shelf)
  return question.heardWith !== 'built in' && question.heardWith.radio ? overRadio(start, shelf) : [start]
}

export const cameraId = 'camera'

/** The brief, the camera, a microphone for anyone who needs one, and the desk where there is one. */
function startOf({ camera, scenario, heardWith, ...choice }: Question, shelf: Shelf): Begun {
  const brief = briefOf(scenario, camera, choice)
  const acoustic = brief.sources.filter(({ kind }) => kind !== 'line')
  const microphone = heardWith === 'built in' ? undefined : heardWith.microphone
  const mount = microphone?.mount ?? 'boom'
  const eachOwn = microphone && (mount === 'worn' || mount === 'hand')
  const voices: (Source | undefined)[] = !microphone ? [] : eachOwn ? acoustic : acoustic.slice(0, 1)
  const places = microphone
    ? voices.map((voice, index) =>
        placeFor(brief, mount, {
          id: `place-${index + 1}`,
          own: eachOwn ? voice?.id : undefined,
          boomM: scenario.boomM ?? (choice.far ? farM : undefined),
        }),
      )
    : [placeFor(brief, 'camera', { id: 'place-1' })]
  const names = places.reduce<string[]>((taken) => [...taken, freeName(microphone?.name ?? '', taken)], [])
  const own = [camera].filter(({ id }) => !shelf.has(id))
  const bare = PatchSchema.parse({
    format: 'iron-hush/patch',
    version: formatVersion,
    name: scenario.name,
    brief: { ...brief, places },
    gear: own,
    boxes: [
      { id: cameraId, gear: camera.id, ...(microphone ? {} : { place: 'place-1' }) },
      ...(microphone
        ? places.map(({ id }, index) => ({
            id: places.length > 1 ? `microphone-${index + 1}` : 'microphone',
            gear: microphone.id,
            ...(index > 0 && { name: names[index] }),
            place: id,
            cover: advisedCover[brief.wind],
          }))
        : []),
    ],
    links: [],
    plan: { counts: 'both good' },
  })
  let builder = new ChainBuilder(bare, shelf)
  const outputs = bare.boxes
    .slice(1)
    .map(({ id }) => ({ box: id, port: pluggable(microphone!, 'out')[0]?.id ?? '' }))
  const feed = brief.sources.find(({ kind }) => kind === 'line')
  const desk = [...shelf.values()].find(({ kind }) => kind === 'desk')
  if (feed && desk) {
    const placed = builder.add(desk, { source: feed.id })
    builder = new ChainBuilder(placed.builder.patch, shelf)
    outputs.unshift({ box: placed.id, port: pluggable(desk, 'out')[0]!.id })
  }
  return {
    builder,
    camera: cameraId,
    outputs,
    by: mount === 'worn' || mount === 'camera' ? undefined : 'lead',
  }
}
