import { describe, expect, it } from 'vitest'
import { findWays } from '../circuit'
import { applyEdits } from '../edits'
import { levelsOfPatch } from '../levels'
import { boxOf, type Link, type Patch, thingsOf } from '../model'
import { swapsFor } from '.'
import { scene, shelf } from '../tests/demo'

/** The pieces of the best way between two things of the shelf that brings sound, dead ways left out. */
function waysBetween(from: string, fromPort: string, to: string, toPort: string) {
  const bench = scene('1-the-founder-at-the-bench')
  const link: Link = {
    id: 'asked',
    from: { box: 'from', port: fromPort },
    to: { box: 'to', port: toPort },
    pieces: [],
  }
  const patch: Patch = {
    ...bench,
    gear: [],
    boxes: [
      { id: 'from', gear: from, settings: {}, locked: [] },
      { id: 'to', gear: to, settings: {}, locked: [] },
    ],
    links: [link],
  }
  return findWays(patch, link, shelf, { refused: ['dead'], mostPieces: 2 })
}

describe('the shelf that ships', () => {
  it('has no socket that leads nowhere and no control that does nothing', () => {
    for (const gear of shelf.values()) {
      if (gear.passive) continue
      const text = JSON.stringify([gear.strips, gear.ports, gear.radio])
      for (const { id } of gear.controls)
        expect(text, `${gear.id}, control ${id}`).toContain(`"control":"${id}"`)
      for (const { id, direction } of gear.ports) {
        const used = gear.strips.some(({ from, to }) =>
          direction === 'in'
            ? 'port' in from && from.port === id
            : to.some((each) => 'port' in each && each.port === id),
        )
        // headphones end in their port, antennas may end in a radio of their own
        expect(used || gear.kind === 'headphones', `${gear.id}, port ${id}`).toBe(true)
      }
    }
  })
  it('has a lead for each new kind of thing', () => {
    const first = (...asked: Parameters<typeof waysBetween>) =>
      waysBetween(...asked)[0]?.pieces.map(({ gear }) => gear.id)
    expect(first('fennimore-usb-microphone', 'usb', 'saltmarsh-phone-usb-c', 'usb')).toEqual([])
    expect(first('tarnwick-two-socket-interface', 'usb', 'saltmarsh-phone-usb-c', 'usb')).toEqual([])
    const digital = waysBetween('saltmarsh-four-track', 'digital', 'oriel-large-camcorder', 'digital')
    expect(digital.flatMap(({ pieces }) => pieces.map(({ gear }) => gear.id))).toContain('digital-xlr-3m')
    expect(first('quernstone-battery-preamplifier', 'out', 'fennimore-mirrorless', 'mic')).toHaveLength(1)
    const supplied = waysBetween('oriel-socket-lapel', 'out', 'saltmarsh-phone-application', 'headset')
    expect(supplied.map(({ pieces }) => pieces.map(({ gear }) => gear.id).join())).toContain(
      'socket-lapel-to-four',
    )
    const phono = waysBetween('tarnwick-phono-player', 'left', 'saltmarsh-pocket-line', 'in')
    expect(phono.map(({ pieces }) => pieces.map(({ gear }) => gear.id).join())).toContain('two-rca-to-mini')
  })
  it('has a dongle that takes a headset poorly, and an ordinary microphone not at all', () => {
    const through = (microphone: string, port: string) =>
      waysBetween(microphone, port, 'saltmarsh-phone-usb-c', 'usb').filter(({ pieces }) =>
        pieces.some(({ gear }) => gear.id === 'headset-dongle'),
      )
    const [headset] = through('saltmarsh-headset', 'out').filter(({ pieces }) => pieces.length === 1)
    expect(headset?.report.findings.map(({ code }) => code)).toContain('one side')
    expect(through('fennimore-plug-in-lapel', 'out').filter(({ pieces }) => pieces.length === 1)).toEqual([])
  })
  it('has something to stand in for what is not known yet, with figures of its kind, which nothing proposes', () => {
    const bench = scene('1-the-founder-at-the-bench')
    for (const [box, standIn] of [
      ['recorder', 'not-known-recorder'],
      ['boom', 'not-known-microphone'],
      ['camera', 'not-known-camera'],
    ] as const) {
      const patch = applyEdits(bench, [{ kind: 'swap', part: box, gear: standIn }], shelf)
      const levels = levelsOfPatch(patch, shelf)
      const name = shelf.get(standIn)!.name
      expect(
        levels.assumptions.some(
          ({ partName }) => partName === (patch.boxes.find(({ id }) => id === box)!.name ?? name),
        ),
      ).toBe(true)
      for (const run of levels.runs) expect(Number.isFinite(run.speechToNoiseDb)).toBe(true)
      expect(swapsFor(patch, boxOf(patch, box), shelf).every(({ gear }) => !gear.standIn)).toBe(true)
    }
    const standIns = [...shelf.values()].filter(({ standIn }) => standIn)
    expect(standIns.map(({ kind }) => kind).sort()).toEqual([
      'camera',
      'microphone',
      'microphone',
      'mixer',
      'preamplifier',
      'recorder',
    ])
    for (const gear of standIns)
      expect([gear.owned, gear.price, JSON.stringify(gear).includes('"unknown"')]).toEqual([
        0,
        undefined,
        true,
      ])
    expect(thingsOf(shelf)).toHaveLength(shelf.size - standIns.length)
  })
})
