import { describe, expect, it } from 'vitest'
import { mount } from '@vue/test-utils'
import { nextTick } from 'vue'
import WaveStrip from './WaveStrip.vue'
import WorstPeak from './WorstPeak.vue'

describe('a wave', () => {
  const channel = {
    peakDbfs: 0,
    peakAtS: 2,
    rmsDbfs: -20,
    speechDbfsA: -22,
    noiseDbfsA: -60,
    pauses: true,
    truePeakDbtp: null,
    tone: null,
    ceilingDbfs: null,
    clipped: [
      { fromS: 2, toS: 2.5, levelDbfs: 0, shape: 'flat at full scale' as const, samples: 20, confidence: 1 },
    ],
    clippedMore: 0,
    worstPeak: [0, 0.5, 1, 1, 1, 0.5, 0],
    envelope: Array.from({ length: 100 }, (): [number, number] => [-0.5, 0.5]),
    levelsDbfsA: [],
    noiseBands: [],
  }
  it('marks what is cut where it is', async () => {
    const wrapper = mount(WaveStrip, { props: { channel, lengthS: 10, toS: 10, label: 'Channel 1' } })
    await nextTick()
    expect(wrapper.get('svg').attributes('aria-label')).toMatch(/cut in 1 place$/)
    expect(wrapper.findAll('rect')).toHaveLength(1)
  })
  it('shows the samples of the worst peak', () => {
    expect(mount(WorstPeak, { props: { channel } }).findAll('circle')).toHaveLength(7)
  })
})
