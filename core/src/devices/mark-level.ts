import { Refusal } from '../model'
import type { Device, RecordRequest } from './device'

const lowestDbfs = -72
const highestDbfs = 0
const stepDb = 0.5

/**
 * The level of the tone at which a mark of a meter lights, as a person would find it: up and down until half a decibel
 * decides.
 *
 * @throws Refusal where it does not light at all
 */
export async function markLevel(device: Device, request: RecordRequest, mark: string): Promise<number> {
  const { sound } = request
  if (sound.kind !== 'signal') throw new Refusal('A mark of a meter is found with a tone.')
  const order = new Map<string, number>()
  const reaches = async (levelDbfs: number): Promise<boolean> => {
    const shows = await device.readMeters({
      ...request,
      sound: { ...sound, signal: { kind: 'tone', levelDbfs } },
    })
    return shows.some((each) => 'mark' in each && (order.get(each.mark) ?? -1) >= (order.get(mark) ?? 0))
  }
  for (const [index, { id }] of device.marks(request.box).entries()) order.set(id, index)
  if (!(await reaches(highestDbfs)))
    throw new Refusal(`${device.name}: this mark does not light, however loud the tone is sent.`)
  let [below, above] = [lowestDbfs, highestDbfs]
  while (above - below > stepDb) {
    const middle = (below + above) / 2
    if (await reaches(middle)) above = middle
    else below = middle
  }
  return Math.round(above / stepDb) * stepDb
}
