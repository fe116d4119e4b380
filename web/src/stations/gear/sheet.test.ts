import { describe, expect, it } from 'vitest'
import { mount } from '@vue/test-utils'
import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { contactRolesOf, pieceOfGear, pieceStrands } from '@iron-hush/core/circuit'
import { figuresOfGear } from '@iron-hush/core/model'
import { shownFigure, statedFigure } from './figures'
import { shelf, gear } from '../../tests/demo'
import EverythingPanel from './EverythingPanel.vue'
import PortContacts from './PortContacts.vue'
import ContactsDrawing from '../patch/ContactsDrawing.vue'

describe('a sheet', () => {
  const shown = (id: string, name: string) =>
    shownFigure(figuresOfGear(shelf.get(id)!).find((figure) => figure.name === name)!)
  it('shows every figure with unit, tolerance and where it comes from', () => {
    expect(shown('fennimore-mirrorless', 'input noise')).toEqual({
      name: 'input noise',
      value: '\u2212106 dBu(A) \u00B1 0.5',
      from: 'measured',
    })
    expect(shown('fennimore-mirrorless', 'impedance').value).toBe('4700 ohm \u00B1 200')
  })
  it('says of an unknown figure that it is not known', () => {
    expect(shown('tarnwick-action-camera', 'input noise').from).toMatch(/not known/)
    expect(statedFigure('unknown').from).toBe('unknown')
  })
  it('has figures for every device on the shelf', () => {
    for (const thing of gear) if (thing.strips.length) expect(figuresOfGear(thing).length).toBeGreaterThan(0)
  })
  it('draws the contacts of every plug and socket with what each is for', () => {
    const camera = shelf.get('fennimore-mirrorless')!
    const drawn = mount(PortContacts, { props: { port: camera.ports[0]!, thing: camera } })
    expect(drawn.get('.contacts').attributes('aria-label')).toMatch(/tip: left, gives [\d.]+ V, ring: right/)
    for (const thing of gear)
      for (const port of thing.ports) {
        const roles = contactRolesOf(port, thing)
        if (roles.length) expect(roles.some(({ kind }) => kind === 'signal')).toBe(true)
      }
  })
  it('draws every cable and adapter from end to end', () => {
    for (const thing of gear) {
      const piece = pieceOfGear(thing.id, thing, {})
      if (!piece) continue
      for (const link of pieceStrands(piece)) {
        const wrapper = mount(ContactsDrawing, { props: { link, width: 380, alone: true } })
        expect(wrapper.findAll('line').length).toBe(link.strands[0]!.length)
      }
      expect(pieceStrands(piece).some(({ strands }) => strands[0]!.length > 0)).toBe(true)
    }
  })
})

describe('everything a thing is made of, while the shelf is read again', () => {
  const camera = shelf.get('fennimore-mirrorless')!
  const copy = (changes: object = {}) => ({ ...structuredClone(camera), ...changes })
  const opened = () =>
    mount(EverythingPanel, { props: { thing: copy() }, global: { plugins: [createPinia(), PrimeVue] } })
  const nameOf = (panel: ReturnType<typeof opened>) => panel.get<HTMLInputElement>('input').element.value

  it('keeps what was typed when the same thing comes again', async () => {
    const panel = opened()
    await panel.get('input').setValue('Mine')
    await panel.get('input').trigger('change')
    await panel.setProps({ thing: copy() })
    expect(nameOf(panel)).toBe('Mine')
    expect(panel.text()).not.toContain('changed elsewhere')
  })
  it('keeps it and says so when the thing was changed elsewhere, and shows that one on request', async () => {
    const panel = opened()
    await panel.get('input').setValue('Mine')
    await panel.get('input').trigger('change')
    await panel.setProps({ thing: copy({ name: 'Theirs' }) })
    expect(nameOf(panel)).toBe('Mine')
    expect(panel.text()).toContain('changed elsewhere')
    await panel.get('button.quiet').trigger('click')
    expect(nameOf(panel)).toBe('Theirs')
  })
  it('follows the thing where nothing was typed', async () => {
    const panel = opened()
    await panel.setProps({ thing: copy({ name: 'Theirs' }) })
    expect(nameOf(panel)).toBe('Theirs')
  })
})
