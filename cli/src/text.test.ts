import { describe, expect, it } from 'vitest'
import { balance, pricesOf } from '@iron-hush/core/balance'
import { wiringOf } from '@iron-hush/core/circuit'
import { levelsOfPatch } from '@iron-hush/core/levels'
import { type MeasureAnswer } from '@iron-hush/core/model'
import { balanceAnswer, levelsAnswer, wiringAnswer } from '@iron-hush/core/report'
import { linkBetween, readPatch } from './input'
import { balanceText, levelsText, measureText, wiringText } from './text'

const scene = (name: string) => readPatch(`${import.meta.dirname}/../../demo/scenes/${name}.json`)

describe('what the terminal prints', () => {
  it('levels: every point with its unit, then the findings, then what was assumed', async () => {
    const { patch, shelf } = await scene('2-the-pour')
    const text = levelsText(levelsAnswer(patch, levelsOfPatch(patch, shelf)))
    expect(text.split('\n')[0]).toBe('The pour')
    expect(text).toMatch(/Lapel: At the capsule +typical +\d+\.\d +peak +\d+\.\d +noise +- dB SPL/)
    expect(text).toMatch(/Camera: Converter .* dBFS/)
    expect(text).toMatch(/\nFindings\n {2}harmful/)
    expect(text).toMatch(/\nAssumed\n {2}Action camera, First amplifier: input noise is not known/)
  })
  it('balance: each move, what it wins, and why it ends there; or that there is nothing to do', async () => {
    const { patch, shelf } = await scene('3-the-tuning')
    const found = balanceAnswer(patch, balance(patch, shelf)!, pricesOf(patch, shelf))
    expect(balanceText(found, 'signal-to-noise')).toMatch(/pad\.loss +none -> t\w+ +alone -?\d+\.\d dB/)
    expect(balanceText(found, 'signal-to-noise')).toMatch(
      /signal-to-noise \d+\.\d -> \d+\.\d dB, headroom -\d+\.\d -> \d+\.\d dB/,
    )
    expect(balanceText({ ...found, changes: [] }, 'signal-to-noise')).toMatch(/Nothing to change/)
  })
  it('wiring: what touches what, what arrives, and which way up', async () => {
    const { patch, shelf } = await scene('1-the-founder-at-the-bench')
    const answer = wiringAnswer(patch, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))
    const text = wiringText(answer)
    expect(text).toMatch(/Boom, XLR into XLR cable, 6 m: 1, 2, 3/)
    expect(text).toMatch(/left on right: nothing/)
    answer.links[0]!.variants[0]!.reaches[0]!.sign = -1
    expect(wiringText(answer)).toMatch(/dB, inverted/)
  })
  it('measure: facts of the file, each channel, and blanks where nothing was', () => {
    const answer: MeasureAnswer = {
      format: 'iron-hush/measurement',
      version: 1,
      clip: 'a.wav',
      container: 'WAV',
      codec: 'PCM',
      bits: 24,
      rateHz: 48000,
      lengthS: 61.5,
      stream: { texts: [] },
      loudness: null,
      faults: [],
      remarks: ['The file is cut off.'],
      findings: [],
      against: [],
      channels: [
        {
          peakDbfs: null,
          peakAtS: 0,
          rmsDbfs: null,
          speechDbfsA: null,
          noiseDbfsA: null,
          pauses: false,
          truePeakDbtp: null,
          tone: null,
          ceilingDbfs: null,
          clipped: [],
          clippedMore: 0,
          worstPeak: [],
          levelsDbfsA: [],
          noiseBands: [],
          envelope: [],
        },
      ],
    }
    const text = measureText(answer)
    expect(text).toMatch(/^a\.wav: WAV PCM, 24 bits, 48 kHz, 1 channel, 1:01\.5\n {2}The file is cut off\./)
    expect(text).toMatch(/channel 1: peak - dBFS .* \(no pauses found\)/)
  })
})

describe('sockets by name', () => {
  it('are found by box and port, and the right way round', async () => {
    const { patch, shelf } = await scene('1-the-founder-at-the-bench')
    expect(linkBetween(patch, shelf, 'boom.out', 'camera.mic')).toMatchObject({
      from: { box: 'boom', port: 'out' },
      to: { box: 'camera', port: 'mic' },
    })
    expect(() => linkBetween(patch, shelf, 'camera.mic', 'boom.out')).toThrow(
      /"camera\.mic" is no output of this patch; there are boom\.out,/,
    )
    expect(() => linkBetween(patch, shelf, 'boom.out', 'nowhere')).toThrow(/is no input/)
  })
})
