import { describe, expect, it } from 'vitest'
import { scene, shelf } from '../tests/demo'
import { gearOf, idleControls, type Patch } from './index'

const idleOf = (patch: Patch, box: string) => {
  const { gear } = patch.boxes.find(({ id }) => id === box)!
  return [...idleControls(patch, box, gearOf(shelf, gear))].toSorted()
}
const bench = scene('1-the-founder-at-the-bench')
const without = (patch: Patch, port: string): Patch => ({
  ...patch,
  links: patch.links.filter(({ to }) => to.port !== port),
})

describe('controls of inputs without a lead', () => {
  it('are those of a channel that is not used, and its supply', () => {
    const recorder = shelf.get('oriel-float-recorder')!
    const into = (...ports: string[]): Pick<Patch, 'links'> => ({
      links: ports.map((port) => ({
        to: { box: 'recorder', port },
      })) as unknown as Patch['links'],
    })
    expect([...idleControls(into('in-1'), 'recorder', recorder)]).toEqual(['input-2', 'phantom-2'])
    expect([...idleControls(into('in-1', 'in-2'), 'recorder', recorder)]).toEqual([])
    // outputs and phones are used without a lead of ours
    expect([...idleControls(into(), 'recorder', recorder)]).toEqual([
      'input-1',
      'input-2',
      'phantom-1',
      'phantom-2',
    ])
  })
  it('are none of a channel that is mixed with another, for its hiss comes along', () => {
    const recorder = shelf.get('oriel-float-recorder')!
    const strips = recorder.strips.map((strip) =>
      strip.id === 'channel-2' ? { ...strip, to: [{ bus: 'left' }] } : strip,
    )
    const links = [{ to: { box: 'recorder', port: 'in-1' } }] as unknown as Patch['links']
    expect([...idleControls({ links }, 'recorder', { ...recorder, strips })]).toEqual(['phantom-2'])
  })
  it('are none where every input is used, and none of what several inputs share', () => {
    expect(idleOf(bench, 'recorder')).toEqual([])
    const [first] = bench.links.flatMap(({ to }) => (to.box === 'recorder' ? [to.port] : []))
    const half = idleOf(without(bench, first!), 'recorder')
    expect(half.length).toBeGreaterThan(0)
    expect(half).not.toContain('output')
    expect(half).not.toContain('phones')
  })
})
