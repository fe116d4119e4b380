import { checkPatch, Patch, type PatchInput } from '../model'

/** A line feed that is ten decibels softer at its quietest and louder at its loudest. */
export const feed = (id: string, typical: number) => ({
  kind: 'line' as const,
  id,
  name: id,
  levelsDbu: { quietest: typical - 10, typical, loudest: typical + 10 },
  crestDb: 14,
  noiseDbuA: -100,
})

/** A patch for tests that is fed by lines alone: nothing of it hangs on a place or a picture. */
export function linePatch(
  sources: PatchInput['brief']['sources'],
  parts: Pick<PatchInput, 'boxes' | 'links' | 'gear'> & Partial<Pick<PatchInput, 'plan'>>,
): Patch {
  const patch = Patch.parse({
    format: 'iron-hush/patch',
    version: 2,
    name: 'made for a test',
    brief: {
      sources,
      picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
      room: { name: 'none', volumeM3: 50, reverberationS: 0.5 },
    },
    ...parts,
  })
  const problems = checkPatch(patch, new Map())
  if (problems.length) throw new Error(problems[0])
  return patch
}
