import { describe, expect, it } from 'vitest'
import type { Take } from '../model'
import { takeOfClip } from './take-of-clip'

const at = (clock: string) => new Date(`2026-03-14T${clock}`)
const take = (number: number, from: string, to: string | null): Take => ({
  id: `0198c0de-0000-7000-8000-00000000000${number}`,
  scene: '0198c0de-0000-7000-8000-000000000009',
  number,
  startedAt: at(from).toISOString(),
  endedAt: to === null ? null : at(to).toISOString(),
  verdict: 'open',
  note: '',
  marks: [],
  parts: [],
})
const takes = [take(1, '10:00:00', '10:02:00'), take(2, '10:05:00', '10:09:00'), take(3, '10:20:00', null)]
const clip = (name: string, lengthS: number, recordedAt?: string) => ({
  clip: name,
  lengthS,
  stream: { texts: [], ...(recordedAt !== undefined && { recordedAt }) },
})

describe('the take of a clip', () => {
  it('is the one that rolled when the device says it recorded, with where the clip begins in it', () => {
    const found = takeOfClip(
      { measurement: clip('F-0131.wav', 250, '2026-03-14 10:04:55'), lastModifiedMs: undefined },
      takes,
    )
    expect(found).toMatchObject({ number: 2, laterS: -5, by: 'time' })
  })
  it('is the one that ended when the file was closed', () => {
    const closed = { measurement: clip('C-0042.mov', 118), lastModifiedMs: at('10:02:01').getTime() }
    expect(takeOfClip(closed, takes)).toMatchObject({ number: 1, by: 'time' })
  })
  it('may still be rolling', () => {
    const open = { measurement: clip('x.wav', 60), lastModifiedMs: at('10:22:00').getTime() }
    expect(takeOfClip(open, takes)).toMatchObject({ number: 3 })
  })
  it('is known by its number where no time fits', () => {
    const copied = { lastModifiedMs: at('18:00:00').getTime() }
    expect(
      takeOfClip({ measurement: clip('bench take 02.wav', 60), ...copied }, takes.slice(0, 2)),
    ).toMatchObject({
      number: 2,
      by: 'name',
    })
    expect(takeOfClip({ measurement: clip('mistake 2.wav', 60), ...copied }, takes.slice(0, 2))).toBeNull()
  })
  it('is none where nothing tells', () => {
    const other = { measurement: clip('F-0131.wav', 60), lastModifiedMs: at('10:03:30').getTime() }
    expect(takeOfClip(other, takes.slice(0, 2))).toBeNull()
    expect(
      takeOfClip({ measurement: clip('a.wav', 9, 'yesterday'), lastModifiedMs: undefined }, takes),
    ).toBeNull()
  })
})
