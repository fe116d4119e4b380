import { describe, expect, it } from 'vitest'
import { mount } from '@vue/test-utils'
import type { Control } from '@iron-hush/core/model'
import ControlFace from './ControlFace.vue'

describe('controls', () => {
  const knob: Control = {
    kind: 'knob',
    id: 'gain',
    name: 'Gain',
    minimum: -10,
    maximum: 10,
    click: 2,
    unit: 'dB',
    initial: 0,
  }
  const scale: Control = { kind: 'scale', id: 'level', name: 'Level', steps: 32, initial: 0 }
  const toggle: Control = {
    kind: 'switch',
    id: 'pad',
    name: 'Pad',
    positions: [
      { id: 'off', name: 'off' },
      { id: 'on', name: '\u221220' },
    ],
    initial: 'off',
  }
  const face = (control: Control, position: number | string, more = {}) =>
    mount(ControlFace, { props: { control, position, label: control.name, ...more } })

  it('say where they stand and turn by keys, ten with Shift, to the ends and no further', async () => {
    const wrapper = face(knob, 0)
    const slider = wrapper.get('[role=slider]')
    expect(slider.attributes('aria-valuetext')).toBe('0 dB')
    await slider.trigger('keydown', { key: 'ArrowUp' })
    await slider.trigger('keydown', { key: 'ArrowDown' })
    await slider.trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    await slider.trigger('keydown', { key: 'Home' })
    expect(wrapper.emitted('turn')).toEqual([[2], [-2], [10], [-10]])
  })
  it('take what is typed, nearest to where they can stand, and say what is none', async () => {
    const wrapper = face(knob, 0)
    const type = async (text: string) => {
      await wrapper.get('[role=slider]').trigger('keydown', { key: '=' })
      await wrapper.get('input').setValue(text)
      await wrapper.get('input').trigger('keydown', { key: 'Enter' })
    }
    await type('3,9 dB')
    await type('\u22126')
    expect(wrapper.emitted('turn')).toEqual([[4], [-6]])
    await type('ninety')
    expect(wrapper.get('[role=alert]').text()).toMatch(/not one of its positions/)
    await wrapper.get('input').trigger('keydown', { key: 'Escape' })
    expect(wrapper.find('input').exists()).toBe(false)
    expect(wrapper.emitted('turn')).toHaveLength(2)
  })
  it('go back to where they stood at first by a double click', async () => {
    const wrapper = face(knob, 6)
    await wrapper.get('[role=slider]').trigger('dblclick')
    expect(wrapper.emitted('turn')).toEqual([[knob.initial]])
  })
  it('look locked, and take nothing typed then', async () => {
    const wrapper = face(scale, 3, { locked: true })
    expect(wrapper.get('[role=slider]').classes()).toContain('locked')
    await wrapper.get('[role=slider]').trigger('keydown', { key: '=' })
    expect(wrapper.find('input').exists()).toBe(false)
  })
  it('stay still when locked', async () => {
    const wrapper = face(scale, 3, { locked: true })
    await wrapper.get('[role=slider]').trigger('keydown', { key: 'ArrowUp' })
    expect(wrapper.emitted('turn')).toBeUndefined()
  })
  it('show a proposed position as a ghost', () => {
    expect(face(knob, 0, { ghost: 4 }).findAll('[stroke-dasharray]')).toHaveLength(1)
    expect(face(knob, 4, { ghost: 4 }).findAll('[stroke-dasharray]')).toHaveLength(0)
    expect(face(toggle, 'off', { ghost: 'on' }).get('.ghost').text()).toBe('\u221220')
  })
  it('are switches where the box has switches', async () => {
    const wrapper = face(toggle, 'off')
    await wrapper.findAll('[role=radio]')[1]!.trigger('click')
    await wrapper.get('[role=radiogroup]').trigger('keydown', { key: 'ArrowUp' })
    await wrapper.get('[role=radiogroup]').trigger('keydown', { key: 'ArrowDown' })
    expect(wrapper.emitted('turn')).toEqual([['on'], ['on']])
  })
})
