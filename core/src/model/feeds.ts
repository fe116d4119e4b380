import type { Gear, Port } from './gear'
import type { Patch } from './patch'

/** Where a desk or player takes in what it carries: an input that nothing can be plugged into, in a thing that gives it on. */
export const feedPort = ({ ports }: Gear): Port | undefined =>
  ports.some(({ direction }) => direction === 'out')
    ? ports.find(({ direction, connector }) => direction === 'in' && connector === 'fixed')
    : undefined

/** Line sources of the brief, which desks and players can carry. */
export const lineSources = ({ brief }: Pick<Patch, 'brief'>) =>
  brief.sources.filter(({ kind }) => kind === 'line')

/** The source that a thing gets when it joins the chain: the first line source not yet on a box. */
export const feedFor = (patch: Patch, gear: Gear): string | undefined =>
  feedPort(gear) && lineSources(patch).find(({ id }) => !patch.boxes.some(({ source }) => source === id))?.id
