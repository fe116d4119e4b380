import type { Gear } from './gear'
import type { Patch } from './patch'

type Strip = Gear['strips'][number]
const endKey = (end: Strip['to'][number]): string => JSON.stringify(end)

/**
 * Controls of a box that act on nothing but inputs without a lead, in channels that are mixed with none in use: their
 * gain, switches and supplies can be in any position. A control that acts on something else as well, or on nothing that
 * is described, is not among them.
 */
export function idleControls(patch: Pick<Patch, 'links'>, box: string, gear: Gear): Set<string> {
  const plugged = new Set(patch.links.flatMap(({ to }) => (to.box === box ? [to.port] : [])))
  const isIdle = ({ id, direction, connector }: Gear['ports'][number]): boolean =>
    direction === 'in' && connector !== 'air' && !plugged.has(id)
  const idlePorts = new Set(gear.ports.filter(isIdle).map(({ id }) => id))
  const isUnfed = ({ from }: Strip): boolean => 'port' in from && idlePorts.has(from.port)
  // the hiss of an unused channel comes along where it is mixed with others
  const mixed = new Set(gear.strips.flatMap((strip) => (isUnfed(strip) ? [] : strip.to.map(endKey))))
  const isIdleStrip = (strip: Strip): boolean =>
    isUnfed(strip) && !strip.to.some((end) => mixed.has(endKey(end)))
  const split = <T>(all: readonly T[], isIn: (each: T) => boolean) => [
    all.filter(isIn),
    all.filter((each) => !isIn(each)),
  ]
  const [unusedPorts, ports] = split(gear.ports, isIdle)
  const [unusedStrips, strips] = split(gear.strips, isIdleStrip)
  const { controls, ...others } = gear
  const acting = namedIn({ ...others, ports, strips })
  const unused = namedIn([unusedPorts, unusedStrips])
  return new Set(controls.map(({ id }) => id).filter((id) => unused.has(id) && !acting.has(id)))
}

/** Controls that some part of a description names. */
function namedIn(part: unknown): Set<string> {
  const found = new Set<string>()
  const look = (value: unknown): void => {
    if (value === null || typeof value !== 'object') return
    if ('control' in value && typeof value.control === 'string') found.add(value.control)
    for (const each of Object.values(value)) look(each)
  }
  look(part)
  return found
}
