import { describe, expect, it } from 'vitest'
import { balance } from '@iron-hush/core/balance'
import { createPinia } from 'pinia'
import { mount } from '@vue/test-utils'
import { ref } from 'vue'
import type { Cure } from '@iron-hush/core/balance'
import { reason } from '@iron-hush/core/findings'
import { cureWords } from '@iron-hush/core/words'
import { tuning, shelf } from '../../tests/demo'
import ProposalPanel from './ProposalPanel.vue'
import PrimeVue from 'primevue/config'

describe('cures', () => {
  const score = (speechToNoiseDb: number, headroomDb: number) => ({
    overDb: [0],
    outsideDb: [0],
    speechToNoiseDb: [speechToNoiseDb],
    overBoxesDb: [speechToNoiseDb + 10],
    headroomDb,
    changes: 1,
  })
  const cure = (thing: string, price: number | undefined, fits: boolean): Cure => ({
    change: { kind: 'swap', thing, replaces: 'Recorder' },
    price,
    fits,
    before: score(20, -4),
    after: score(31.25, 3),
    edits: [],
  })
  const balancing = (cures: Cure[], curing = false) => {
    const taken: string[] = []
    return {
      taken,
      proposal: ref({
        ...balance(tuning, shelf)!,
        fits: false,
        changes: [],
        reasons: [reason('no control', {})],
      }),
      cures: ref(cures),
      tried: ref(0.4),
      curing: ref(curing),
      takeCure: ({ change }: Cure) => taken.push(cureWords(change)),
      acceptAll: () => undefined,
      cancel: () => undefined,
      cure: () => undefined,
      stopCuring: () => undefined,
    }
  }
  const panel = (given: ReturnType<typeof balancing>) =>
    mount(ProposalPanel, {
      props: { balancing: given as never },
      global: { plugins: [PrimeVue, createPinia()] },
    })
  it('say what they cost and what they buy, and are taken with one click', async () => {
    const given = balancing([cure('A pad', 15, true), cure('A gun', undefined, false)])
    const wrapper = panel(given)
    expect(wrapper.text()).toContain('No setting is better than this one')
    const [pad, gun] = wrapper.findAll('li button')
    expect(pad!.text()).toMatch(/A pad.*to buy, about 15.*20\.0 \u2192 31\.\d dB, headroom 3\.0 dB/)
    expect(gun!.text()).toMatch(/price not known.*nearer/)
    await pad!.trigger('click')
    expect(given.taken).toEqual(['A pad in place of Recorder'])
  })
  it('show how far they are, and say so when there are none', () => {
    expect(panel(balancing([], true)).text()).toContain('40 %')
    expect(panel(balancing([])).text()).toContain('Nothing on the shelf gains a decibel')
  })
})
