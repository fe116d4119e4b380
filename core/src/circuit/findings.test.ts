import { describe, expect, it } from 'vitest'
import { contactsOf } from '../model'
import { type InputPort, type OutputPort, type Piece, reportOf, strayCapacitors } from './index'
import { about, balancedInput, cable, dynamic, stereoInput, wiresOf } from '../tests/links'
import { circuitWords } from '../words'

const straight = contactsOf['xlr-3'].map((contact) => [contact, contact] as const)

describe('the mistakes people make', () => {
  const lapel: OutputPort = {
    name: 'Lapel',
    shape: 'mini-3',
    gender: 'plug',
    channels: [{ signal: 'founder', drive: 'single-ended', hot: 'tip', ohm: 2200 }],
    ground: ['sleeve'],
    needs: [
      { name: 'its capsule', contacts: ['tip'], minimumVolts: 1, typicalVolts: 1.8, typicalAmperes: 0.0003 },
    ],
  }
  /** A phone or action camera: microphone on the sleeve, ground on the second ring. */
  const headset: InputPort = {
    name: 'Phone',
    shape: 'mini-4',
    gender: 'socket',
    channels: [{ id: 'microphone', hot: 'sleeve', ohm: 3000 }],
    ground: ['second ring'],
    supplies: [{ name: 'plug-in power', volts: 2.2, ohm: 2200, contacts: ['sleeve'] }],
  }
  const threeToFour: Piece = {
    id: 'three-to-four',
    name: 'Three-to-four adapter',
    ends: [
      { shape: 'mini-3', gender: 'socket' },
      { shape: 'mini-4', gender: 'plug' },
    ],
    wires: wiresOf([
      ['tip', 'sleeve'],
      ['sleeve', 'second ring'],
    ]),
  }
  it('a microphone plug in a headset socket is silent; the adapter cures it', () => {
    const alone = { output: lapel, pieces: [], inputs: [headset] }
    expect(about(alone)).toEqual(expect.arrayContaining(['dead', 'supply missing', 'supply shorted']))
    expect(reportOf(alone).findings[0]!.severity).toBe('dead')
    const adapted = { ...alone, pieces: [threeToFour] }
    expect(
      reportOf(adapted).findings.filter(({ severity }) => severity === 'dead' || severity === 'harmful'),
    ).toEqual([])
  })
  it('and the finding follows from the contacts: wired the other way, the same adapter gives it no power', () => {
    const other = {
      ...threeToFour,
      wires: wiresOf([
        ['tip', 'second ring'],
        ['sleeve', 'sleeve'],
      ]),
    }
    expect(reportOf({ output: lapel, pieces: [other], inputs: [headset] }).findings[0]).toMatchObject({
      code: 'supply missing',
      severity: 'dead',
    })
  })
  it('a balanced feed into a stereo input records the right side upside down', () => {
    const output: OutputPort = {
      name: 'Line out',
      shape: 'jack-3',
      gender: 'socket',
      channels: [{ signal: 'mix', drive: 'symmetric', hot: 'tip', cold: 'ring', ohm: 75 }],
      ground: ['sleeve'],
    }
    const input = { ...stereoInput(10_000), shape: 'jack-3' as const }
    const link = { output, pieces: [cable('jack-3', 1, 'plug', 'plug')], inputs: [input] }
    const finding = reportOf(link).findings.find((each) => each.code === 'polarity')!
    expect(finding.severity).toBe('harmful')
    expect(circuitWords(finding).what).toMatch(/right of Camera in has the opposite polarity to left/)
  })
  it('a stereo feed into a balanced input cancels what both share', () => {
    const output: OutputPort = {
      name: 'Player',
      shape: 'jack-3',
      gender: 'socket',
      channels: [
        { signal: 'left', drive: 'single-ended', hot: 'tip', ohm: 100 },
        { signal: 'right', drive: 'single-ended', hot: 'ring', ohm: 100 },
      ],
      ground: ['sleeve'],
    }
    const input: InputPort = {
      name: 'Mixer in',
      shape: 'jack-3',
      gender: 'socket',
      channels: [{ id: 'one', hot: 'tip', cold: 'ring', ohm: 20_000, commonModeOhm: 20_000 }],
      ground: ['sleeve'],
    }
    expect(about({ output, pieces: [cable('jack-3', 1, 'plug', 'plug')], inputs: [input] })).toContain(
      'cancelled',
    )
  })
  it('a long lead at high impedance loses treble, and says from where', () => {
    const long: Piece = {
      ...cable('xlr-3', 100),
      strays: strayCapacitors({ lengthM: 100, picofaradPerM: 100 }, ['xlr-3', 'xlr-3'], straight),
    }
    const output = { ...dynamic, channels: [{ ...dynamic.channels[0]!, ohm: 10_000 }] }
    const finding = reportOf({ output, pieces: [long], inputs: [balancedInput(1e6)] }).findings.find(
      (each) => each.code === 'treble',
    )!
    // two cores of 10 nF to the shield in series and 5 nF between them: 10 nF across 10 kohm, 1.6 kHz; re 1 kHz 2.1
    expect(circuitWords(finding).why).toMatch(/3 dB less from 2\.1 kHz/)
  })
  it('a condenser without its supply is dead, with phantom power it lives', () => {
    const output: OutputPort = {
      ...dynamic,
      name: 'Short gun',
      channels: [{ ...dynamic.channels[0]!, ohm: 150 }],
      needs: [
        {
          name: 'its amplifier',
          contacts: ['2', '3'],
          minimumVolts: 30,
          typicalVolts: 40,
          typicalAmperes: 0.003,
        },
      ],
    }
    expect(about({ output, pieces: [cable('xlr-3', 6)], inputs: [balancedInput(3000)] })).toContain(
      'supply missing',
    )
    const phantom = [{ name: 'phantom power', volts: 48, ohm: 6810, contacts: ['2', '3'] }]
    const powered = reportOf({
      output,
      pieces: [cable('xlr-3', 6)],
      inputs: [balancedInput(3000, undefined, phantom)],
    }).findings
    expect(powered.filter(({ severity }) => severity !== 'note')).toEqual([])
  })
  it('plugs that do not go together are refused by shape, not by name', () => {
    expect(reportOf({ output: dynamic, pieces: [], inputs: [stereoInput(3000)] }).findings).toMatchObject([
      { code: 'misfit', severity: 'dead' },
    ])
    expect(
      circuitWords(
        reportOf({
          output: dynamic,
          pieces: [cable('xlr-3', 1, 'socket', 'socket')],
          inputs: [balancedInput(3000)],
        }).findings[0]!,
      ).why,
    ).toMatch(/Two sockets face each other/)
  })
  it('says that a stereo plug in a mono socket works in some and shorts in others', () => {
    const output: OutputPort = {
      name: 'Line out',
      shape: 'mini-3',
      gender: 'plug',
      channels: [
        { signal: 'left', drive: 'single-ended', hot: 'tip', ohm: 100 },
        { signal: 'right', drive: 'single-ended', hot: 'ring', ohm: 100 },
      ],
      ground: ['sleeve'],
    }
    const input: InputPort = {
      name: 'Mono in',
      shape: 'mini-2',
      gender: 'socket',
      channels: [{ id: 'one', hot: 'tip', ohm: 10_000 }],
      ground: ['sleeve'],
    }
    const findings = reportOf({ output, pieces: [], inputs: [input] }).findings
    expect(findings.some((finding) => circuitWords(finding).what.startsWith('In some sockets:'))).toBe(true)
  })
})
