import { type Brief, type BriefInput, Brief as BriefSchema, type Gear } from '../model'

/** How a scene is asked for on the first page: who or what is heard, and where. */
export interface Scenario {
  id: string
  name: string
  note: string
  /** How far a microphone on a boom or stand is from it, m; left out: as near as the picture allows. */
  boomM?: number
  /** A microphone each where there are several voices and they wear one. */
  brief: Omit<BriefInput, 'picture' | 'places'> & { framing: Brief['picture']['framing'] }
}

const normalSpeech = { quietest: 54, typical: 60, loudest: 72 }
const room = { name: 'furnished room', volumeM3: 60, reverberationS: 0.4 }
const outside = { name: 'in the open', volumeM3: 1000, reverberationS: 0.1, outdoors: true }
const hall = { name: 'hall', volumeM3: 3000, reverberationS: 1.6 }
const quietRoom = { id: 'room-noise', name: 'room noise', levelDba: 34, spectrum: 'ventilation' as const }
const street = {
  id: 'street',
  name: 'traffic',
  levelDba: 55,
  loudestDba: 70,
  spectrum: 'traffic' as const,
}
const speaker = (id: string, name: string, movement: 'seated' | 'standing' | 'walking') => ({
  kind: 'speech' as const,
  id,
  name,
  levelsDba: normalSpeech,
  crestDb: 14,
  movement,
})

/** Scenes to begin with, each with typical answers to what was not asked. */
export const scenarios: readonly Scenario[] = [
  {
    id: 'seated',
    name: 'One person, seated',
    note: 'waist-up, quiet room',
    brief: {
      sources: [speaker('speaker', 'speaker', 'seated')],
      room,
      noises: [quietRoom],
      framing: 'waist-up',
    },
  },
  {
    id: 'two',
    name: 'Two people',
    note: 'facing, one camera',
    brief: {
      sources: [speaker('first', 'first speaker', 'seated'), speaker('second', 'second speaker', 'seated')],
      room,
      noises: [quietRoom],
      framing: 'knees-up',
    },
  },
  {
    id: 'walking',
    name: 'Someone walking',
    note: 'outdoors, some wind',
    brief: {
      sources: [
        {
          ...speaker('speaker', 'speaker', 'walking'),
          levelsDba: { quietest: 56, typical: 64, loudest: 76 },
        },
      ],
      room: outside,
      noises: [street],
      wind: 'breeze',
      framing: 'knees-up',
    },
  },
  {
    id: 'stage',
    name: 'A stage with a desk',
    note: 'line feed and room',
    boomM: 6,
    brief: {
      sources: [
        {
          kind: 'line',
          id: 'feed',
          name: 'desk feed',
          levelsDbu: { quietest: -24, typical: -8, loudest: 0 },
          crestDb: 14,
          noiseDbuA: -84,
        },
        // an audience and its loudspeakers: meant to be heard from afar, unlike a voice
        {
          kind: 'music',
          id: 'hall',
          name: 'hall',
          levelsDba: { quietest: 60, typical: 72, loudest: 84 },
          crestDb: 14,
          movement: 'standing',
        },
      ],
      room: hall,
      noises: [{ ...quietRoom, name: 'hall at rest', levelDba: 40 }],
      framing: 'whole figure',
    },
  },
  {
    id: 'loud',
    name: 'Something loud',
    note: 'machine, bell, ride',
    boomM: 1.5,
    brief: {
      sources: [
        {
          kind: 'strike',
          id: 'strike',
          name: 'loud thing',
          levelsDba: { quietest: 80, typical: 94, loudest: 112 },
          crestDb: 18,
          movement: 'standing',
        },
      ],
      room: { ...outside, name: 'a yard' },
      noises: [street],
      framing: 'wide',
    },
  },
  {
    id: 'place',
    name: 'A place',
    note: 'no words',
    boomM: 5,
    brief: {
      sources: [
        {
          kind: 'music',
          id: 'place',
          name: 'place',
          levelsDba: { quietest: 40, typical: 52, loudest: 64 },
          crestDb: 14,
          movement: 'standing',
        },
      ],
      room: outside,
      framing: 'wide',
    },
  },
]

/** Deviations from the scenario: outdoors or indoors, and how near a microphone may come. */
export interface ScenarioChoice {
  outdoors?: boolean
  /** A microphone out of the picture stays some metres off. */
  far?: boolean
}

/** The brief of a scenario, as a camera films it. Places of microphones come with the microphones. */
export function briefOf({ brief }: Scenario, camera: Gear, { outdoors }: ScenarioChoice = {}): Brief {
  const { framing, ...rest } = brief
  const picture = camera.picture ?? { sensor: 'APS-C' as const, focalLengthMm: 35 }
  const moved =
    outdoors === undefined || outdoors === (brief.room.outdoors ?? false)
      ? {}
      : outdoors
        ? { room: outside, noises: [street], wind: 'breeze' as const }
        : { room, noises: [quietRoom], wind: 'none' as const }
  return BriefSchema.parse({ ...rest, ...moved, picture: { framing, ...picture } })
}
